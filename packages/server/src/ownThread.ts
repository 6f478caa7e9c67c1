// Threads for single things that would hold the event loop for longer than others can wait.
import { fileURLToPath } from 'node:url';
import { Piscina } from 'piscina';
import type { ProblemCode } from '@mellow/contract';
import { Refused } from './errors.ts';

/**
 * One thread, let go when nobody has needed it for a minute. Of no data at all the package web-worker, which geotiff
 * loads, makes an error.
 */
const ONE = { minThreads: 0, maxThreads: 1, idleTimeout: 60_000, workerData: {} };

type Told<Value> =
  | { value: Value }
  | { refused: { code: ProblemCode; detail: string; errors: { path: string; message: string }[] } }
  | { failed: { message: string; code: unknown; syscall: unknown } };

/**
 * What such a thread's module hands on. Errors lose their class on the way, and all but their words: what is refused
 * must not, nor what the system says of a file.
 */
export const answering =
  <Asked, Value>(answer: (asked: Asked) => Value | Promise<Value>) =>
  async (asked: Asked): Promise<Told<Value>> => {
    try {
      return { value: await answer(asked) };
    } catch (error) {
      if (error instanceof Refused)
        return { refused: { code: error.code, detail: error.message, errors: error.errors } };
      if (!(error instanceof Error && 'syscall' in error && 'code' in error)) throw error;
      return { failed: { message: error.message, code: error.code, syscall: error.syscall } };
    }
  };

/** One thread, begun when it is first asked. */
export class OwnThread<Asked, Value> {
  readonly #file: string;
  #pool: Piscina<Asked, Told<Value>> | undefined;

  /** `file`: a module whose default export is `answering` something. */
  constructor(file: URL) {
    this.#file = fileURLToPath(file);
  }
  /** Throws Refused, and the system's errors, as what answers does. */
  async ask(asked: Asked): Promise<Value> {
    this.#pool ??= new Piscina({ ...ONE, filename: this.#file });
    const told = await this.#pool.run(asked);
    if ('refused' in told) throw new Refused(told.refused.code, told.refused.detail, told.refused.errors);
    if ('failed' in told) throw Object.assign(new Error(told.failed.message), told.failed);
    return told.value;
  }
  async close(): Promise<void> {
    await this.#pool?.destroy();
    this.#pool = undefined;
  }
}
