// Small pictures that nobody waits for: one at a time, and none while a hand still moves what they show.
import type { CropAnswer, CropTask } from './frameProtocol.ts';

/** An edit is seldom alone: a picture is made anew when nothing has changed for as long as this, ms. */
const QUIET_MS = 2500;

interface Wanted {
  /** Put together when its turn comes; undefined: nothing that is shown has changed. */
  make: () => CropTask | undefined;
  done: (crop: CropAnswer | undefined) => void;
}
/** Asks for pictures by the place they are for: a newer wish takes the place of one that still waits. */
export class PictureQueue {
  readonly #ask: (task: CropTask) => Promise<CropAnswer | undefined>;
  readonly #quietMs: number;
  readonly #wanted = new Map<string, Wanted>();
  #timer: ReturnType<typeof setTimeout> | undefined;
  #isBusy = false;

  constructor(ask: (task: CropTask) => Promise<CropAnswer | undefined>, quietMs = QUIET_MS) {
    this.#ask = ask;
    this.#quietMs = quietMs;
  }
  /** The returned function takes the wish back. */
  want(place: string, make: Wanted['make'], done: Wanted['done']): () => void {
    const wanted = { make, done };
    this.#wanted.delete(place);
    this.#wanted.set(place, wanted);
    this.#wait();
    return () => {
      if (this.#wanted.get(place) === wanted) this.#wanted.delete(place);
    };
  }
  #wait(): void {
    clearTimeout(this.#timer);
    this.#timer = setTimeout(() => {
      this.#timer = undefined;
      void this.#work();
    }, this.#quietMs);
  }
  async #work(): Promise<void> {
    if (this.#isBusy) return;
    const [next] = this.#wanted;
    if (!next) return;
    const [place, { make, done }] = next;
    this.#wanted.delete(place);
    const task = make();
    if (!task) return this.#work();
    this.#isBusy = true;
    // what cannot be made is not shown: the shot's own picture stays
    done(await this.#ask(task).catch(() => undefined));
    this.#isBusy = false;
    // a wish that came meanwhile has begun a quiet time of its own
    if (this.#timer === undefined) void this.#work();
  }
}
