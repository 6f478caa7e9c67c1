import { fileURLToPath } from 'node:url';
import { Piscina } from 'piscina';
import type { Found, SetOut, Step } from './carryProtocol.ts';

const THREAD = fileURLToPath(new URL('./carryThread.mjs', import.meta.url));

/** Carries one selection in a thread of its own, so that the server goes on answering. */
export class CarryThread {
  /** One thread, one request at a time: it remembers what it has seen. */
  readonly #pool = new Piscina({ filename: THREAD, minThreads: 1, maxThreads: 1, concurrentTasksPerWorker: 1 });

  setOut = (request: Omit<SetOut, 'kind'>): Promise<void> =>
    this.#pool.run({ ...request, kind: 'set out' } satisfies SetOut) as Promise<void>;
  step = (request: Omit<Step, 'kind'>): Promise<Found> =>
    this.#pool.run({ ...request, kind: 'step' } satisfies Step) as Promise<Found>;
  /** Ends it at once; what is asked of it is refused. */
  close = (): Promise<void> => this.#pool.destroy();
}
