import { boundsOfMatte, boxAround, cutOut } from '../matte/bounds.ts';
import { differences } from './differences.ts';
import type { SizedPicture } from './preparedPicture.ts';
import { signedDistance } from './signedDistance.ts';
import { straightLines } from './straightLines.ts';

/** What is thin is no wider than this, and at least so long, pixels of the fine picture at its full size. */
const MOST_WIDE_PX = 14;
const LEAST_LONG_PX = 60;
/** Odds under this say that a pixel is not the piece's. */
const LEAST_ODDS = 0.5;
/** Odds under this, on the whole, say that a line is not. */
const LEAST_ODDS_OF_LINE = 0.25;
/** What differs a quarter as much as what may lie in front is a line's rim. */
const LEAST_RIM = 0.25;
/** Round about: a square so many times as wide as what is thin. */
const ROUND_ABOUT = 2;
/** How far round the mask is looked whether a line goes on. */
const MARGIN_PX = 80;
/** A line is inside, or outside, where it is so far from the outline, pixels; of it so much must be. */
const OFF_OUTLINE = 3;
const LEAST_OUTSIDE = 0.1;
/** One that does not reach out must be so long. */
const LONG_PX = 160;
/** Of what lies under strokes that take in, more than this was meant. */
const MOST_MARKED = 0.2;

/**
 * Leaves thin things in front (wires, twigs, spokes) out of a mask of 0 and 1, in place. Patches are wider than such
 * things; so lines are looked for pixel by pixel: what differs from what is round about it, long one way and short
 * across. A line is left out where its colours are the surroundings', by `oddsAt` (log-odds of a pixel's being in), or
 * where it goes on outside. A stroke that takes in and merely crosses it does not keep it. `scale`: the size of the
 * picture over the full fine size.
 */
export function leaveOutThinThings(
  mask: Float32Array,
  { width, height, oklab }: SizedPicture,
  marks: Int8Array,
  oddsAt: (i: number) => number,
  scale: number,
): void {
  const piece = boundsOfMatte(mask, width, height);
  if (!piece) return;
  const box = boxAround(piece, Math.round(MARGIN_PX * scale), width, height);
  const [w, h] = [box.x1 - box.x0, box.y1 - box.y0];
  const part = (plane: Float32Array) => cutOut(plane, width, box);
  const whole = (i: number) => (Math.floor(i / w) + box.y0) * width + box.x0 + (i % w);
  const inside = part(mask);
  const widest = Math.max(MOST_WIDE_PX * scale, 4);
  const picture = { L: part(oklab.L), a: part(oklab.a), b: part(oklab.b) };
  const difference = differences(inside, picture, w, h, ROUND_ABOUT * widest);
  const differs = new Uint8Array(difference.length);
  for (let i = 0; i < differs.length; i++)
    if (difference[i]! > 1 || (difference[i]! > LEAST_RIM && inside[i]! >= 0.5 && oddsAt(whole(i)) < -LEAST_ODDS))
      differs[i] = 1;
  const depth = signedDistance(inside, w, h);
  const lines = new Uint8Array(differs.length);
  for (const line of straightLines(differs, w, h, widest, LEAST_LONG_PX * scale))
    if (isInFront(line, depth, whole, marks, oddsAt, w, scale)) for (const i of line) lines[i] = 1;
  growInPlace(lines, difference, w, h, Math.round(widest / 3));
  for (let i = 0; i < lines.length; i++) if (lines[i] === 1) mask[whole(i)] = 0;
}

/** Takes to lines what differs beside them, so many pixels far: their rims, and where they cross. */
function growInPlace(lines: Uint8Array, difference: Float32Array, width: number, height: number, by: number): void {
  for (let round = 0; round < by; round++) {
    // the rim is softer than what it is the rim of
    const least = round < by - 1 ? 1 : LEAST_RIM;
    const beside: number[] = [];
    for (let y = 1; y < height - 1; y++)
      for (let x = 1, i = y * width + 1; x < width - 1; x++, i++) {
        if (lines[i] === 1 || !(difference[i]! > least)) continue;
        if (lines[i - 1] || lines[i + 1] || lines[i - width] || lines[i + width]) beside.push(i);
      }
    for (const i of beside) lines[i] = 1;
  }
}

function lengthOf(line: Int32Array, width: number): number {
  const [p, q] = [line[0]!, line.at(-1)!];
  return Math.hypot((p % width) - (q % width), Math.floor(p / width) - Math.floor(q / width));
}
/** Does a line lie in front, by its pixels? */
function isInFront(
  line: Int32Array,
  depth: Float32Array,
  whole: (i: number) => number,
  marks: Int8Array,
  oddsAt: (i: number) => number,
  width: number,
  scale: number,
): boolean {
  let [inside, outside, marked, odds] = [0, 0, 0, 0];
  for (const i of line) {
    if (depth[i]! < -OFF_OUTLINE) outside++;
    if (depth[i]! < 0) continue;
    inside++;
    odds += oddsAt(whole(i));
    if (marks[whole(i)]! > 0) marked++;
  }
  if (inside === 0 || marked > MOST_MARKED * inside) return false;
  if (outside > LEAST_OUTSIDE * line.length) return odds < 0;
  return odds < -LEAST_ODDS_OF_LINE * inside && (outside > 0 || lengthOf(line, width) > LONG_PX * scale);
}
