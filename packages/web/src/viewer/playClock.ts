/** Frames the shown rate is taken over. */
const OVER = 24;

/**
 * When to show the next frame. Every frame is shown, in order: one that is not computed yet is waited for, and the
 * clock goes on from there, so that what is seen is what will be rendered and the rate falls instead. Times in
 * milliseconds.
 */
export class PlayClock {
  readonly #period: number;
  #due: number;
  #shown: number[] = [];
  constructor(fps: number, now: number) {
    this.#period = 1000 / fps;
    this.#due = now + this.#period;
    this.#shown.push(now);
  }
  isDue(now: number): boolean {
    // half a millisecond early is on time: screens do not tick to the microsecond
    return now >= this.#due - 0.5;
  }
  /** The next frame is shown now. */
  advance(now: number): void {
    this.#due = now - this.#due > this.#period ? now + this.#period : this.#due + this.#period;
    this.#shown = [...this.#shown.slice(-OVER), now];
  }
  /** Frames a second over the last of them; 0 before the first. */
  get fps(): number {
    const n = this.#shown.length - 1;
    return n < 1 ? 0 : (1000 * n) / (this.#shown[n]! - this.#shown[0]!);
  }
}
