import { getEnvironmentData, setEnvironmentData } from 'node:worker_threads';
import pLimit from 'p-limit';

/** Work of which so much goes on at once in all threads of this process; within a thread in the order it was asked. */
export class Turns {
  /** How many more may begin. */
  readonly #free: Int32Array;
  readonly #inOrder: ReturnType<typeof pLimit>;

  /** `name`: that of these turns in all threads. Threads that are begun later count with this one. */
  constructor(name: string, atOnce: number) {
    const shared = getEnvironmentData(name) as SharedArrayBuffer | undefined;
    this.#free = new Int32Array(shared ?? new SharedArrayBuffer(Int32Array.BYTES_PER_ELEMENT));
    if (!shared) {
      this.#free[0] = atOnce;
      setEnvironmentData(name, this.#free.buffer);
    }
    this.#inOrder = pLimit(atOnce);
  }
  run<T>(work: () => Promise<T>): Promise<T> {
    return this.#inOrder(async () => {
      while (!this.#take()) await Atomics.waitAsync(this.#free, 0, 0).value;
      try {
        return await work();
      } finally {
        Atomics.add(this.#free, 0, 1);
        // all of them look again: a thread that ends meanwhile would keep what it alone was told to itself
        Atomics.notify(this.#free, 0);
      }
    });
  }
  #take(): boolean {
    const free = Atomics.load(this.#free, 0);
    if (free === 0) return false;
    return Atomics.compareExchange(this.#free, 0, free, free - 1) === free || this.#take();
  }
}
