// Straight lines in a set of pixels.

/** A line goes on over a gap of so many pixels; past one that crosses it, so many times as far as lines are wide. */
const GAP = 3;
const PAST = 2.5;
/** And it is no wider than this share of its length. */
const MOST_WIDE_OF_LENGTH = 0.25;
/** Ways that a pixel is looked at, and those that lines are told by: parts of half a turn. */
const DIRECTIONS = 16;
const FINER = 4;
const ANGLES = FINER * DIRECTIONS;
/** Lines are sought until the best has fewer pixels than so many times the least length, or so many were found. */
const LEAST_PIXELS = 1.5;
const MOST_LINES = 200;
const unit = (k: number, of: number) => [Math.cos((Math.PI * k) / of), Math.sin((Math.PI * k) / of)] as const;
const STEPS = Array.from({ length: DIRECTIONS }, (_, k) => unit(k, DIRECTIONS));
const NORMALS = Array.from({ length: ANGLES }, (_, k) => unit(k + ANGLES / 2, ANGLES));

/**
 * The straight lines of a set (1, else 0), as lists of its pixels: at least `least` long and at most `widest` wide,
 * pixels. Each pixel that lies on something long and narrow votes for the lines through it (R. Duda, P. Hart, "Use of
 * the Hough transformation to detect lines and curves in pictures", 1972); the line with most votes is taken, its
 * pixels vote no more, and so on.
 */
export function straightLines(
  set: Uint8Array,
  width: number,
  height: number,
  widest: number,
  least: number,
): Int32Array[] {
  const direction = directionsOf(set, width, height, widest, least);
  const votes = new Votes(width, height, Math.max(widest / 2, 1));
  const places: number[] = [];
  for (let i = 0; i < direction.length; i++) if (direction[i] !== 0) places.push(i);
  for (const i of places) votes.count(i % width, Math.floor(i / width), direction[i]! - 1, 1);
  const found: Int32Array[] = [];
  while (found.length < MOST_LINES) {
    const best = votes.most();
    if (best.votes < LEAST_PIXELS * least) break;
    const on = places.filter((i) => {
      if (direction[i] === 0 || !isNear(direction[i]! - 1, best.angle)) return false;
      return Math.abs(votes.offset(i % width, Math.floor(i / width), best.angle) - best.offset) <= 0.7 * widest;
    });
    if (on.length === 0) break;
    for (const i of on) {
      votes.count(i % width, Math.floor(i / width), direction[i]! - 1, -1);
      direction[i] = 0;
    }
    found.push(...stretches(on, width, best.angle, PAST * widest, least));
  }
  return found;
}

/** Is a way, by its number, about that of an angle? */
function isNear(direction: number, angle: number): boolean {
  const d = Math.abs(direction * FINER - angle);
  return Math.min(d, ANGLES - d) <= 2 * FINER;
}

/** How many pixels lie on each line, by its angle and its distance from the middle of the picture. */
class Votes {
  readonly #counts: Int32Array;
  readonly #bins: number;
  readonly #bin: number;
  readonly #middle: readonly [number, number];
  constructor(width: number, height: number, bin: number) {
    this.#bin = bin;
    this.#middle = [width / 2, height / 2];
    this.#bins = Math.ceil(Math.hypot(width, height) / bin) + 2;
    this.#counts = new Int32Array(ANGLES * this.#bins);
  }
  offset(x: number, y: number, angle: number): number {
    const [nx, ny] = NORMALS[angle]!;
    return (x - this.#middle[0]) * nx + (y - this.#middle[1]) * ny;
  }
  /** Adds a pixel to the lines about its direction, or takes it from them. */
  count(x: number, y: number, direction: number, by: 1 | -1): void {
    for (let k = -FINER; k <= FINER; k++) {
      const angle = (direction * FINER + k + ANGLES) % ANGLES;
      const bin = Math.round(this.offset(x, y, angle) / this.#bin + this.#bins / 2);
      this.#counts[angle * this.#bins + bin]! += by;
    }
  }
  /** The line with most, that of a bin together with the next: a line may lie between. */
  most(): { angle: number; offset: number; votes: number } {
    let [at, votes] = [0, 0];
    for (let i = 0; i + 1 < this.#counts.length; i++) {
      const both = this.#counts[i]! + this.#counts[i + 1]!;
      if (both > votes) [at, votes] = [i, both];
    }
    const offset = ((at % this.#bins) + 0.5 - this.#bins / 2) * this.#bin;
    return { angle: Math.floor(at / this.#bins), offset, votes };
  }
}

/** The stretches of a line without gaps, those that are long enough. */
function stretches(on: readonly number[], width: number, angle: number, gap: number, least: number): Int32Array[] {
  const [dx, dy] = unit(angle, ANGLES);
  const along = on.map((i) => ({ i, t: (i % width) * dx + Math.floor(i / width) * dy })).sort((p, q) => p.t - q.t);
  const found: Int32Array[] = [];
  let from = 0;
  for (let k = 1; k <= along.length; k++) {
    if (k < along.length && along[k]!.t - along[k - 1]!.t <= gap) continue;
    const stretch = along.slice(from, k);
    if (stretch.at(-1)!.t - stretch[0]!.t >= least) found.push(Int32Array.from(stretch, (p) => p.i));
    from = k;
  }
  return found;
}

/**
 * The direction, 1..16 (halves of a turn, from the row on), in which each pixel of a set lies on a line; 0 where it
 * does not: how far the set goes on both ways along, over small gaps, and how far across.
 */
function directionsOf(set: Uint8Array, width: number, height: number, widest: number, least: number): Uint8Array {
  const out = new Uint8Array(set.length);
  const longest = 2 * least;
  const reach = (x: number, y: number, dx: number, dy: number, most: number, gap: number): number => {
    let last = 0;
    for (let t = 1; t <= most; t++) {
      const u = Math.round(x + dx * t);
      const v = Math.round(y + dy * t);
      if (u < 0 || v < 0 || u >= width || v >= height) break;
      if (set[v * width + u] === 1) last = t;
      else if (t - last > gap) break;
    }
    return last;
  };
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      if (set[i] === 0) continue;
      let best = 0;
      let long = 0;
      for (let k = 0; k < DIRECTIONS; k++) {
        const dx = STEPS[k]![0];
        const dy = STEPS[k]![1];
        const along = reach(x, y, dx, dy, longest, GAP) + reach(x, y, -dx, -dy, longest, GAP) + 1;
        if (along <= long) continue;
        best = k;
        long = along;
      }
      const [dx, dy] = STEPS[best]!;
      const most = Math.ceil(widest);
      const across = reach(x, y, -dy, dx, most, 0) + reach(x, y, dy, -dx, most, 0) + 1;
      if (long >= least && across <= widest && across <= MOST_WIDE_OF_LENGTH * long) out[i] = best + 1;
    }
  return out;
}
