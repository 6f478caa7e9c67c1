import { getEnvironmentData, setEnvironmentData } from 'node:worker_threads';

/** A turn that somebody has; it is given back once, however often that is said. */
export interface Turn {
  giveBack: () => void;
  /**
   * True where somebody waits for whom nobody else makes room yet: whoever is told so is to give this turn back soon.
   */
  isWanted: () => boolean;
}

/** What all threads count, in whole numbers that wrap around: only their differences are meant. */
const ASKED = 0;
const SERVED = 1;
const PROMISED = 2;

/** Work of which so much goes on at once in all threads of this process, in the order in which it was asked for. */
export class Turns {
  /**
   * Tickets, as at a counter: whoever asks takes the next number, and may begin once more than that have been served,
   * which are as many as may go on at once and those that are over. And how many are about to be given back for others.
   */
  readonly #counts: Int32Array<SharedArrayBuffer>;

  /** `name`: that of these turns in all threads. Threads that are begun later count with this one. */
  constructor(name: string, atOnce: number) {
    const shared = getEnvironmentData(name) as SharedArrayBuffer | undefined;
    this.#counts = new Int32Array(shared ?? new SharedArrayBuffer(3 * Int32Array.BYTES_PER_ELEMENT));
    if (!shared) {
      this.#counts[SERVED] = atOnce;
      setEnvironmentData(name, this.#counts.buffer);
    }
  }
  async take(): Promise<Turn> {
    const ticket = Atomics.add(this.#counts, ASKED, 1);
    for (;;) {
      const served = Atomics.load(this.#counts, SERVED);
      if (((ticket - served) | 0) < 0) return this.#turn();
      await Atomics.waitAsync(this.#counts, SERVED, served).value;
    }
  }
  /** A turn if one is free and nobody waits for it. */
  takeNow(): Turn | undefined {
    for (;;) {
      const asked = Atomics.load(this.#counts, ASKED);
      if (((asked - Atomics.load(this.#counts, SERVED)) | 0) >= 0) return undefined;
      if (Atomics.compareExchange(this.#counts, ASKED, asked, asked + 1) === asked) return this.#turn();
    }
  }
  async run<T>(work: () => Promise<T>): Promise<T> {
    const turn = await this.take();
    try {
      return await work();
    } finally {
      turn.giveBack();
    }
  }
  #turn(): Turn {
    let [isOver, isPromised] = [false, false];
    return {
      giveBack: () => {
        if (isOver) return;
        isOver = true;
        if (isPromised) Atomics.sub(this.#counts, PROMISED, 1);
        Atomics.add(this.#counts, SERVED, 1);
        // all of them look again: a thread that ends meanwhile would keep what it alone was told to itself
        Atomics.notify(this.#counts, SERVED);
      },
      isWanted: () => (isPromised ||= !isOver && this.#promise()),
    };
  }
  /** Notes that room is about to be made for one more of those that wait; false where there is none. */
  #promise(): boolean {
    for (;;) {
      const promised = Atomics.load(this.#counts, PROMISED);
      const waiting = (Atomics.load(this.#counts, ASKED) - Atomics.load(this.#counts, SERVED)) | 0;
      if (waiting <= promised) return false;
      if (Atomics.compareExchange(this.#counts, PROMISED, promised, promised + 1) === promised) return true;
    }
  }
}
