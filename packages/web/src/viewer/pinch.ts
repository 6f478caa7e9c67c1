// Two fingers on the picture: apart and together they zoom, side by side they move it.
import type { ScreenPoint } from './wipe.ts';

export interface PinchStep {
  /** Zoom is multiplied by this, about `about`; then the view is moved by `by`. Screen pixels. */
  factor: number;
  about: ScreenPoint;
  by: ScreenPoint;
}
/** Fingers nearer than this do not tell how far apart they are, px. */
const LEAST = 8;

export class Pinch {
  readonly #fingers = new Map<number, ScreenPoint>();
  get isTwo(): boolean {
    return this.#fingers.size === 2;
  }
  /** Only the first two fingers count. */
  down(id: number, at: ScreenPoint): void {
    if (this.#fingers.size < 2) this.#fingers.set(id, at);
  }
  up(id: number): void {
    this.#fingers.delete(id);
  }
  /** What a finger's move does to the view; undefined while there are not two. */
  move(id: number, to: ScreenPoint): PinchStep | undefined {
    if (!this.#fingers.has(id)) return undefined;
    const before = [...this.#fingers.values()];
    this.#fingers.set(id, to);
    const after = [...this.#fingers.values()];
    if (!this.isTwo) return undefined;
    const apart = ([p, q]: ScreenPoint[]) => Math.max(Math.hypot(p![0] - q![0], p![1] - q![1]), LEAST);
    const middle = ([p, q]: ScreenPoint[]): ScreenPoint => [(p![0] + q![0]) / 2, (p![1] + q![1]) / 2];
    const [from, about] = [middle(before), middle(after)];
    return { factor: apart(after) / apart(before), about: from, by: [about[0] - from[0], about[1] - from[1]] };
  }
}
