import type { Freedom } from '../document/motion.ts';
import { bilinear } from '../matte/bilinear.ts';
import { median } from '../measure/median.ts';
import { STILL, type Homography } from './homography.ts';
import { solveInPlace } from './linear.ts';
import { boxOf, type LossReason, type Mask, type TrackedFrame } from './planeTracker.ts';
import type { Level, Pyramid } from './pyramid.ts';

/** Regions no larger than this each way are patches, pixels: too small to be told from by blocks and corners. */
export const PATCH_PX = 44;
const MOST_SAMPLES = 1200;
/** Of the samples, those that a place is first looked for by. */
const SEARCHED_BY = 150;
/** How far round the place that is due it is looked for: so many sizes, and never less than that, pixels. */
const SEARCH = 0.9;
const LEAST_SEARCH = 14;
/** After a gap it is looked for so many times as far. */
const SEARCH_AGAIN = 2.5;
const SEARCH_STEP = 1.5;
/** What a place at the end of the search is worth less than one that is due, correlation. */
const FAR_OFF = 0.12;
const MOST_PLACES = 3;
const ROUNDS = 14;
/** Residuals past so many standard deviations are not believed (Tukey's biweight; Huber & Ronchetti 2009). */
const TUKEY = 4.685;
/** Under this correlation with every look it is not the patch. */
const LEAST_LIKE = 0.78;
/** Under this with the look it has been laid over so far, the look of the frame before is taken up. */
const NEW_LOOK = 0.88;
const MOST_LOOKS = 4;
/** A look changes slowly: where it falls off by more than this from frame to frame something is coming before it. */
const SLOWLY = 0.04;
/** Standard deviation of the noise that a picture has at least, luma 0..1. */
const NOISE = 0.008;
const LARGEST_TEXTURE_ERROR_PX = 0.5;
const LARGEST_ERROR_PX = 1.2;
/** Residuals of neighbouring pixels go together, which makes a fit look surer than it is by about this factor. */
const OVERSURE = 3;
/** An expected error of so much halves the confidence. */
const SURE_PX = 0.6;
/** It has left the picture when less of it than this is on it. */
const LEAST_INSIDE = 0.5;
/** With less of it than this on the picture where it is due, a loss is put down to that. */
const MOSTLY_INSIDE = 0.8;

/** Move, turn (radians) and scale (log) of a patch about its middle, from the reference frame. */
interface Pose {
  x: number;
  y: number;
  turn: number;
  scale: number;
}
/** A pose as it is computed with: the turn times the scale, and where the middle comes to lie, in samples. */
interface Placing {
  c: number;
  s: number;
  x: number;
  y: number;
}
const AT_REST: Pose = { x: 0, y: 0, turn: 0, scale: 0 };
/** The patch as it looked on a frame. */
interface Look {
  values: Float64Array;
}
interface Fit {
  pose: Pose;
  like: number;
  errorPx: number;
  inside: number;
}

/**
 * Follows a small patch (from 12 pixels) from frame to frame: found by correlation about where it is due, then aligned
 * to how it looked (B. Lucas, T. Kanade 1981; light by a gain and an offset), moved, and turned and scaled where that
 * is free. When it has come to look otherwise its newer look is taken up beside the first, so that errors add up only
 * from one look to the next. What covers it is told by its looking like none of them.
 */
export class PatchTracker {
  readonly #freedom: Freedom;
  readonly #middle: readonly [number, number];
  readonly #size: number;
  /** Places of the samples on the reference frame, from the middle. */
  readonly #u: Float64Array;
  readonly #v: Float64Array;
  readonly #looks: Look[];
  #last: Pose = AT_REST;
  #before: Pose | undefined;
  #pending: (Look & { like: number }) | undefined;
  /** The error, in pixels, that noise alone leaves; Infinity for a blank patch. */
  readonly textureErrorPx: number;

  constructor(reference: Pyramid, region: Mask, holdOut: Mask | undefined, freedom: Freedom) {
    this.#freedom = freedom;
    const { x0, y0, x1, y1 } = boxOf(region);
    this.#middle = [(x0 + x1) / 2, (y0 + y1) / 2];
    this.#size = Math.max(x1 - x0, y1 - y0);
    const every = Math.max(Math.ceil(Math.sqrt(((x1 - x0) * (y1 - y0)) / MOST_SAMPLES)), 1);
    const [u, v]: [number[], number[]] = [[], []];
    for (let y = y0; y < y1; y += every)
      for (let x = x0; x < x1; x += every) {
        const i = y * region.width + x;
        if (region.inside[i] === 0 || holdOut?.inside[i] === 1) continue;
        u.push(x + 0.5 - this.#middle[0]);
        v.push(y + 0.5 - this.#middle[1]);
      }
    [this.#u, this.#v] = [Float64Array.from(u), Float64Array.from(v)];
    const own = this.#read(reference, AT_REST);
    this.#looks = [{ values: own.values }];
    this.textureErrorPx = this.#errorOf(reference, AT_REST, NOISE * Math.SQRT2);
  }

  /** Where the patch lies on the next frame; on a lost one the best guess, and the tracker stays where it was. */
  step(next: Pyramid, holdOut?: Mask): TrackedFrame {
    const due = this.#before ? further(this.#last, this.#before) : this.#last;
    return this.#found(next, due, 1, holdOut);
  }
  /** Looks for it anew near a guess, after a gap. */
  resume(next: Pyramid, guess: Homography, holdOut?: Mask): TrackedFrame {
    this.#before = undefined;
    this.#last = this.#poseOf(guess);
    return this.#found(next, this.#last, SEARCH_AGAIN, holdOut);
  }

  #found(next: Pyramid, due: Pose, search: number, holdOut: Mask | undefined): TrackedFrame {
    if (!(this.textureErrorPx < LARGEST_TEXTURE_ERROR_PX)) return this.#lost(due, 'no texture');
    if (this.#isHeldOut(due, holdOut)) return this.#lost(due, 'covered');
    let best: Fit | undefined;
    for (const look of this.#looks)
      for (const place of this.#placesLike(look, next, due, search)) {
        const fit = this.#fitted(look, next, place);
        if (fit && (!best || worth(fit, due, this.#size) > worth(best, due, this.#size))) best = fit;
      }
    const at = best?.pose ?? due;
    if ((best?.inside ?? this.#insideOf(next, due)) < LEAST_INSIDE) return this.#lost(at, 'left the picture');
    if (!best || best.like < LEAST_LIKE || best.errorPx > LARGEST_ERROR_PX) {
      const isGoing = this.#insideOf(next, due) < MOSTLY_INSIDE;
      return this.#lost(at, isGoing ? 'left the picture' : 'covered', best?.like);
    }
    this.#take(next, best);
    const { errorPx, like, pose } = best;
    const confidence = like / (1 + (errorPx / SURE_PX) ** 2);
    return { motion: this.#motionOf(pose), confidence, expectedErrorPx: errorPx, lost: undefined };
  }
  #lost(pose: Pose, lost: LossReason, like = 0): TrackedFrame {
    return { motion: this.#motionOf(pose), confidence: Math.min(like, 0.3), expectedErrorPx: Infinity, lost };
  }
  #take(next: Pyramid, { pose, like }: Fit): void {
    // the look of the frame before, which was still like enough: this one may be covered in part already
    if (like < NEW_LOOK && this.#pending && this.#pending.like < like + SLOWLY) {
      if (this.#looks.length >= MOST_LOOKS) this.#looks.splice(1, 1);
      this.#looks.push(this.#pending);
    }
    const { values, inside } = this.#read(next, pose);
    this.#pending = inside === 1 ? { values, like } : undefined;
    this.#before = this.#last;
    this.#last = pose;
  }

  #poseOf(h: Homography): Pose {
    const [x, y] = this.#middle;
    const [a, b, c, d, e, f] = h;
    const area = Math.max(a * e - b * d, 1e-6);
    return { x: a * x + b * y + c - x, y: d * x + e * y + f - y, turn: Math.atan2(d, a), scale: Math.log(area) / 2 };
  }
  #motionOf({ x, y, turn, scale }: Pose): Homography {
    if (x === 0 && y === 0 && turn === 0 && scale === 0) return STILL;
    const [mx, my] = this.#middle;
    const [c, s] = [Math.cos(turn) * Math.exp(scale), Math.sin(turn) * Math.exp(scale)];
    return [c, -s, mx + x - c * mx + s * my, s, c, my + y - s * mx - c * my, 0, 0, 1];
  }

  /** What a frame shows of the samples in a pose; NaN off the picture. `inside`: the share that is on it. */
  #read(pyramid: Pyramid, pose: Pose): { values: Float64Array; inside: number } {
    const values = new Float64Array(this.#u.length);
    const placing = this.#placing(pose);
    let on = 0;
    for (let i = 0; i < values.length; i++) {
      values[i] = this.#at(pyramid[0]!, placing, i, 0, 0);
      if (!Number.isNaN(values[i]!)) on++;
    }
    return { values, inside: on / values.length };
  }
  /** How a pose places samples on a picture. */
  #placing({ x, y, turn, scale }: Pose): Placing {
    const grown = Math.exp(scale);
    const [mx, my] = this.#middle;
    return { c: Math.cos(turn) * grown, s: Math.sin(turn) * grown, x: mx + x - 0.5, y: my + y - 0.5 };
  }
  /** What a picture shows of a sample, so far off its place; NaN off the picture. */
  #at(level: Level, placing: Placing, i: number, dx: number, dy: number): number {
    const px = placing.x + placing.c * this.#u[i]! - placing.s * this.#v[i]! + dx;
    const py = placing.y + placing.s * this.#u[i]! + placing.c * this.#v[i]! + dy;
    const { width } = level;
    if (!(px >= 0 && py >= 0 && px < width - 1 && py < level.height - 1)) return NaN;
    return bilinear(level.luma, width, px, py);
  }
  #insideOf(pyramid: Pyramid, pose: Pose): number {
    return this.#read(pyramid, pose).inside;
  }
  #isHeldOut(pose: Pose, holdOut: Mask | undefined): boolean {
    if (!holdOut) return false;
    let held = 0;
    for (let i = 0; i < this.#u.length; i++) {
      const x = Math.floor(this.#middle[0] + pose.x + this.#u[i]!);
      const y = Math.floor(this.#middle[1] + pose.y + this.#v[i]!);
      if (x >= 0 && y >= 0 && x < holdOut.width && y < holdOut.height) held += holdOut.inside[y * holdOut.width + x]!;
    }
    return held > LEAST_INSIDE * this.#u.length;
  }

  /** The places about a pose where the picture is most like a look, the best first; what is due counts for more. */
  #placesLike({ values }: Look, next: Pyramid, due: Pose, search: number): Pose[] {
    const reach = search * Math.max(SEARCH * this.#size, LEAST_SEARCH);
    const every = Math.max(Math.floor(values.length / SEARCHED_BY), 1);
    const places: { pose: Pose; score: number }[] = [];
    const now = new Float64Array(values.length);
    const placing = this.#placing(due);
    for (let dy = -reach; dy <= reach; dy += SEARCH_STEP)
      for (let dx = -reach; dx <= reach; dx += SEARCH_STEP) {
        for (let i = 0; i < now.length; i += every) now[i] = this.#at(next[0]!, placing, i, dx, dy);
        const score = correlation(values, now, every) - FAR_OFF * ((dx * dx + dy * dy) / (reach * reach));
        places.push({ pose: { ...due, x: due.x + dx, y: due.y + dy }, score });
      }
    places.sort((p, q) => q.score - p.score);
    const apart: Pose[] = [];
    for (const { pose } of places) {
      if (apart.length >= MOST_PLACES) break;
      if (apart.every((p) => Math.hypot(p.x - pose.x, p.y - pose.y) > 3 * SEARCH_STEP)) apart.push(pose);
    }
    return apart;
  }

  /** Lays a look over the picture: Gauss–Newton over pose, gain and offset, what does not fit counting less. */
  #fitted({ values }: Look, next: Pyramid, start: Pose): Fit | undefined {
    const level = next[0]!;
    const parts = this.#freedom.scale || this.#freedom.turn ? 4 : 2;
    let pose = start;
    let [gain, offset] = lightOf(values, this.#read(next, pose).values);
    let sigma = Infinity;
    for (let round = 0; round < ROUNDS; round++) {
      // the whole patch first: where it lies is told before how it is turned
      const n = (round < ROUNDS / 3 ? 2 : parts) + 2;
      const normal = new Float64Array(n * n);
      const right = new Float64Array(n);
      const row = new Float64Array(n);
      const residuals: number[] = [];
      const placing = this.#placing(pose);
      const { c, s } = placing;
      for (let i = 0; i < values.length; i++) {
        const here = this.#at(level, placing, i, 0, 0);
        const left = this.#at(level, placing, i, -0.5, 0);
        const rightOf = this.#at(level, placing, i, 0.5, 0);
        const up = this.#at(level, placing, i, 0, -0.5);
        const down = this.#at(level, placing, i, 0, 0.5);
        const off = here - gain * values[i]! - offset;
        if (Number.isNaN(off + left + rightOf + up + down)) continue;
        residuals.push(Math.abs(off));
        const z = off / (TUKEY * sigma);
        if (Math.abs(z) >= 1) continue;
        const weight = (1 - z * z) ** 2;
        const gx = rightOf - left;
        const gy = down - up;
        const ux = c * this.#u[i]! - s * this.#v[i]!;
        const uy = s * this.#u[i]! + c * this.#v[i]!;
        row[0] = gx;
        row[1] = gy;
        row[2] = -values[i]!;
        row[3] = -1;
        if (n > 4) {
          row[4] = this.#freedom.turn ? gy * ux - gx * uy : 0;
          row[5] = this.#freedom.scale ? gx * ux + gy * uy : 0;
        }
        for (let p = 0; p < n; p++) {
          right[p]! -= weight * row[p]! * off;
          for (let q = 0; q < n; q++) normal[p * n + q]! += weight * row[p]! * row[q]!;
        }
      }
      if (residuals.length < values.length * 0.4) return undefined;
      for (let p = 0; p < n; p++) normal[p * n + p]! += 1e-9 + (p > 3 ? 1e-6 : 0);
      if (!solveInPlace(normal, right, n)) return undefined;
      pose = {
        x: pose.x + right[0]!,
        y: pose.y + right[1]!,
        turn: pose.turn + (n > 4 && this.#freedom.turn ? right[4]! : 0),
        scale: pose.scale + (n > 4 && this.#freedom.scale ? right[5]! : 0),
      };
      gain += right[2]!;
      offset += right[3]!;
      sigma = Math.max(1.4826 * median(residuals), NOISE / 2);
      if (Math.hypot(pose.x - start.x, pose.y - start.y) > 2 * LEAST_SEARCH || Math.abs(pose.scale - start.scale) > 0.3)
        return undefined;
      if (n === parts + 2 && Math.hypot(right[0]!, right[1]!) < 1e-3) break;
    }
    const { values: now, inside } = this.#read(next, pose);
    const errorPx = this.#errorOf(next, pose, sigma) * OVERSURE;
    return { pose, like: correlation(values, now, 1), errorPx, inside };
  }

  /** The standard deviation of a place that noise of so much leaves, pixels. */
  #errorOf(pyramid: Pyramid, pose: Pose, sigma: number): number {
    const [level, placing] = [pyramid[0]!, this.#placing(pose)];
    let [xx, xy, yy] = [0, 0, 0];
    for (let i = 0; i < this.#u.length; i++) {
      const gx = this.#at(level, placing, i, 0.5, 0) - this.#at(level, placing, i, -0.5, 0);
      const gy = this.#at(level, placing, i, 0, 0.5) - this.#at(level, placing, i, 0, -0.5);
      if (Number.isNaN(gx + gy)) continue;
      xx += gx * gx;
      xy += gx * gy;
      yy += gy * gy;
    }
    const det = xx * yy - xy * xy;
    return det > 0 ? sigma * Math.sqrt((xx + yy) / det) : Infinity;
  }
}

/** Of two places that look alike the one that is due. */
const worth = ({ like, pose }: Fit, due: Pose, size: number): number =>
  like - FAR_OFF * Math.min(Math.hypot(pose.x - due.x, pose.y - due.y) / size, 1);

/** As it went from the frame before to the last, once more. */
const further = (last: Pose, before: Pose): Pose => ({
  ...last,
  x: 2 * last.x - before.x,
  y: 2 * last.y - before.y,
});

/** Gain and offset that bring a look nearest to what is seen (least squares). */
function lightOf(values: Float64Array, now: Float64Array): [gain: number, offset: number] {
  let [n, v, w, vv, vw] = [0, 0, 0, 0, 0];
  for (let i = 0; i < values.length; i++) {
    if (Number.isNaN(now[i]! + values[i]!)) continue;
    n++;
    v += values[i]!;
    w += now[i]!;
    vv += values[i]! ** 2;
    vw += values[i]! * now[i]!;
  }
  const spread = vv - (v * v) / Math.max(n, 1);
  if (n < 3 || spread < 1e-9) return [1, 0];
  const gain = Math.min(Math.max((vw - (v * w) / n) / spread, 0.3), 3);
  return [gain, (w - gain * v) / n];
}

/** Normalised cross-correlation of every so many samples, −1..1; 0 where too few lie on the picture. */
function correlation(values: Float64Array, now: Float64Array, every: number): number {
  let [n, all, v, w, vv, ww, vw] = [0, 0, 0, 0, 0, 0, 0];
  for (let i = 0; i < values.length; i += every) {
    all++;
    const [a, b] = [values[i]!, now[i]!];
    if (Number.isNaN(a + b)) continue;
    n++;
    v += a;
    w += b;
    vv += a * a;
    ww += b * b;
    vw += a * b;
  }
  if (n < 0.4 * all || n < 4) return 0;
  const spread = (vv - (v * v) / n) * (ww - (w * w) / n);
  return spread > 1e-14 ? (vw - (v * w) / n) / Math.sqrt(spread) : 0;
}
