import { fileURLToPath } from 'node:url';
import { Piscina } from 'piscina';
import type { Found, GoOn, Keep, SetOut, Step } from './carryProtocol.ts';

const THREAD = fileURLToPath(new URL('./carryThread.mjs', import.meta.url));

/** Carries one selection in a thread of its own, so that the server goes on answering. */
export class CarryThread {
  /** One thread, one request at a time: it remembers what it has seen. */
  readonly #pool = new Piscina({ filename: THREAD, minThreads: 1, maxThreads: 1, concurrentTasksPerWorker: 1 });

  setOut = (request: Omit<SetOut, 'kind'>): Promise<void> =>
    this.#pool.run({ ...request, kind: 'set out' } satisfies SetOut) as Promise<void>;
  step = (request: Omit<Step, 'kind'>): Promise<Found> =>
    this.#pool.run({ ...request, kind: 'step' } satisfies Step) as Promise<Found>;
  keep = (request: Omit<Keep, 'kind'>): Promise<void> =>
    this.#pool.run({ ...request, kind: 'keep' } satisfies Keep) as Promise<void>;
  /** The frame that the pass had come to; undefined where it cannot go on and has to set out. */
  goOn = (request: Omit<GoOn, 'kind'>): Promise<number | undefined> =>
    this.#pool.run({ ...request, kind: 'go on' } satisfies GoOn) as Promise<number | undefined>;
  /** Ends it at once; what is asked of it is refused. */
  close = (): Promise<void> => this.#pool.destroy();
}
