import type { Freedom } from '../document/motion.ts';
import { median } from '../measure/median.ts';
import { agreement, align, blockCorrelation, readSamples, type Aligned } from './align.ts';
import { cornersIn } from './corners.ts';
import { flexAt, type Flex } from './flex.ts';
import { FlexFinder } from './flexFinder.ts';
import { pointsAround, turnedAndScaled, type FollowedPoints } from './farStarts.ts';
import { followPoints } from './flow.ts';
import {
  compose,
  inverted,
  isSoundQuad,
  project,
  projectQuad,
  quadArea,
  STILL,
  type Homography,
  type Quad,
} from './homography.ts';
import { solveInPlace } from './linear.ts';
import { MotionModel, squaredError } from './motionModel.ts';
import type { Pyramid } from './pyramid.ts';
import { robustMotion } from './robustFit.ts';
import { GRID, templateOf, type Template } from './template.ts';

/** A picture-sized mask: 1 inside. */
export interface Mask {
  width: number;
  height: number;
  inside: Uint8Array;
}
const isInside = ({ width, height, inside }: Mask, x: number, y: number): boolean =>
  x >= 0 && y >= 0 && x < width && y < height && inside[(y | 0) * width + (x | 0)] === 1;

/** Does a square about a place reach into a mask? Looked at in its middle and corners. */
const touches = (mask: Mask, x: number, y: number, reach: number): boolean =>
  isInside(mask, x, y) ||
  isInside(mask, x - reach, y - reach) ||
  isInside(mask, x + reach, y - reach) ||
  isInside(mask, x - reach, y + reach) ||
  isInside(mask, x + reach, y + reach);

/** Why a track stopped. */
export type LossReason = 'left the picture' | 'covered' | 'no texture';
export interface TrackedFrame {
  /** From the reference frame to this one, picture pixels. */
  motion: Homography;
  /** 0..1: how much of the region's texture is seen again, and how surely that fixes its place. */
  confidence: number;
  /** What the fit itself says of the region's corners: standard deviation, pixels. */
  expectedErrorPx: number;
  lost: LossReason | undefined;
  /** How the region bends beyond that motion; only where the tracker was asked for it. */
  flex?: Flex | undefined;
}

const MOST_POINTS = 300;
/** Half size of the window a point is followed by, pixels. */
const POINT_REACH = 7;
/** Points are kept this many frames before new ones are looked for: fewer changes, less drift. */
const KEEP_FRAMES = 10;
/** A block is the region's own when its correlation reaches this share of what noise alone would leave. */
const SEEN = 0.55;
/** Under this confidence little of the region is seen: less than a third of cover alone would leave. */
const LITTLE_SEEN = 0.52;
/** A motion that little is seen of may differ by this much, or by half of the way it went, from going on as before. */
const STRAY_PX = 4;
/** With this share of the textured blocks seen nothing is taken to cover the region. */
const UNCOVERED = 0.97;
/** … and only where the texture is this sure of its place: weak texture needs its outliers kept out. */
const SURE_TEXTURE_PX = 0.1;
/** Under this a frame is not believed. */
const LEAST_CONFIDENCE = 0.34;
/** … or under this, if it goes on as before: something that crosses the region leaves little of it. */
const LEAST_GOING_ON = 0.18;
const LEAST_INSIDE = 0.12;
/** With less of the region than this on the picture, a loss is put down to that. */
const MOSTLY_INSIDE = 0.6;
const LARGEST_ERROR_PX = 1.2;
/** A region whose corners go further than this share of its size jumps: it is looked for from several starts. */
const JUMP = 0.1;
const MOST_STARTS = 6;
/** Nothing is believed to have gone far that is not seen this well. */
const SURE_AFAR = 0.6;
/** From this confidence on nothing is left to be found. */
const QUITE_SEEN = 0.97;
/** A region whose own noise leaves more than this has no texture to follow. */
const LARGEST_TEXTURE_ERROR_PX = 0.8;
/**
 * Residuals of neighbouring pixels go together, which makes a fit look surer than it is by about this factor (chosen on
 * the synthetic sequences).
 */
const OVERSURE = 4;

interface Box {
  x0: number;
  y0: number;
  x1: number;
  y1: number;
}
/** The frame whose look later frames are laid over: the reference frame, or one that took its place. */
interface Anchor {
  template: Template;
  model: MotionModel;
  /** From the reference frame to the anchor's. */
  motion: Homography;
  box: Box;
  quad: Quad;
}
interface Candidate extends TrackedFrame {
  aligned: Aligned;
  /** Per block: does it show the region (1), something else (0), or is it off the picture (NaN)? */
  seen: Float64Array;
  /** Median over seen blocks of correlation against what noise would leave. */
  likeness: number;
}

export function boxOf({ width, height, inside }: Mask): Box {
  let [x0, y0, x1, y1] = [width, height, 0, 0];
  for (let y = 0; y < height; y++) {
    const row = inside.subarray(y * width, (y + 1) * width);
    const first = row.indexOf(1);
    if (first < 0) continue;
    x0 = Math.min(x0, first);
    x1 = Math.max(x1, row.lastIndexOf(1) + 1);
    y0 = Math.min(y0, y);
    y1 = y + 1;
  }
  return { x0, y0, x1, y1 };
}
const quadOf = ({ x0, y0, x1, y1 }: Box): Quad => [
  [x0, y0],
  [x1, y0],
  [x1, y1],
  [x0, y1],
];
const modelOf = (freedom: Freedom, { x0, y0, x1, y1 }: Box) =>
  new MotionModel(freedom, (x0 + x1) / 2, (y0 + y1) / 2, Math.max(x1 - x0, y1 - y0) / 2);

/**
 * Follows a plane region from frame to frame. Corners (Shi & Tomasi) carried by pyramidal Lucas–Kanade and a robust fit
 * give a first motion, constant velocity a second; direct alignment to the region as it looked on the reference frame
 * (Baker & Matthews) makes the better one exact and keeps errors from adding up. What is seen of the region is judged
 * block by block against that look, so that an occluder is neither aligned to nor mistaken for the region.
 */
export class PlaneTracker {
  readonly #freedom: Freedom;
  readonly #seed: number;
  readonly #region: Mask;
  readonly #regionBox: Box;
  readonly #model: MotionModel;
  #anchor: Anchor;
  #previous: Pyramid;
  #h1: Homography = STILL;
  #h2: Homography | undefined;
  /** Points followed: on the reference frame, on the frame before, and which of them came through. */
  #from: Float64Array = new Float64Array(0);
  #places: Float64Array = new Float64Array(0);
  #kept: Uint8Array = new Uint8Array(0);
  #age = KEEP_FRAMES;
  #weight: Float64Array = new Float64Array(GRID * GRID);
  #carried: number;
  #gain = 1;
  #bias = 0;
  #wholeFrames = 0;
  #frame = 0;
  readonly #flex: FlexFinder | undefined;

  /**
   * `region`: what is followed, on the reference frame; `holdOut`: what of it must not be looked at; with
   * `freedom.flex` it finds how the region bends too.
   */
  constructor(reference: Pyramid, region: Mask, holdOut: Mask | undefined, freedom: Freedom, seed = 1) {
    this.#freedom = freedom;
    this.#seed = seed;
    this.#previous = reference;
    this.#region = region;
    this.#regionBox = boxOf(region);
    this.#model = modelOf(freedom, this.#regionBox);
    this.#anchor = this.#anchorAt(reference, region, holdOut, STILL);
    this.#carried = 2 * this.#anchor.template.noise;
    this.#weight = textured(this.#anchor.template);
    this.textureErrorPx = this.#textureError();
    if (freedom.flex)
      this.#flex = new FlexFinder(
        reference,
        quadOf(this.#regionBox),
        (x, y) => isInside(region, x, y) && !(holdOut && isInside(holdOut, x, y)),
      );
  }

  #anchorAt(pyramid: Pyramid, mask: Mask, holdOut: Mask | undefined, motion: Homography): Anchor {
    const box = boxOf(mask);
    const template = templateOf(pyramid, box, (x, y) => isInside(mask, x, y) && !(holdOut && isInside(holdOut, x, y)));
    return { template, model: modelOf(this.#freedom, box), motion, box, quad: quadOf(box) };
  }

  /**
   * The error, in pixels, that the noise of the reference frame alone leaves: small for a textured region, Infinity for
   * a blank one.
   */
  readonly textureErrorPx: number;
  #textureError(): number {
    const { template, model, quad } = this.#anchor;
    const aligned = align(model, template.fine, this.#previous, STILL, textured(template), this.#carried, 1);
    return aligned
      ? expectedError(model, quad, STILL, aligned, Math.SQRT2 * template.noise, template.trueShare)
      : Infinity;
  }

  /**
   * Where the region lies on the next frame. On a lost frame the motion is the best guess, and the tracker stays where
   * it was.
   */
  step(next: Pyramid, holdOut?: Mask): TrackedFrame {
    this.#frame++;
    if (this.textureErrorPx > LARGEST_TEXTURE_ERROR_PX)
      return { motion: this.#h1, confidence: 0, expectedErrorPx: this.textureErrorPx, lost: 'no texture' };
    const predicted = this.#h2 ? compose(compose(this.#h1, inverted(this.#h2)), this.#h1) : this.#h1;
    const carried = this.#carriedByPoints(next, predicted, holdOut);
    const found = this.#best(next, carried ? [carried, predicted] : [predicted], holdOut);
    const isLittleSeen = found.confidence < LITTLE_SEEN && this.#isFar(found.motion, this.#h1);
    const isFound = found.confidence > QUITE_SEEN || !(isLittleSeen || this.#isFar(found.motion, predicted));
    if (holdOut || found.lost === 'left the picture' || (isFound && !found.lost))
      return this.#taken(next, found, holdOut);
    return this.#taken(next, this.#fromAfar(next, predicted, found), holdOut);
  }
  /** Is the region, by its corners, a good share of its size away from where another motion takes it? */
  #isFar(motion: Homography, from: Homography): boolean {
    const quad = projectQuad(from, quadOf(this.#regionBox));
    const size = Math.sqrt(Math.abs(quadArea(quad)));
    return meanDistance(projectQuad(motion, quadOf(this.#regionBox)), quad) > JUMP * size;
  }
  /** A jump is looked for from several starts; nothing is believed to have gone so far that is not seen well. */
  #fromAfar(next: Pyramid, predicted: Homography, found: Candidate | TrackedFrame): Candidate | TrackedFrame {
    const quad = projectQuad(this.#h1, quadOf(this.#regionBox));
    const around = this.#fitted(pointsAround(this.#previous, next, quad));
    const starts = found.lost
      ? this.#searched(next, turnedAndScaled(predicted, this.#regionBox, this.#freedom), MOST_STARTS)
      : [];
    let far = this.#best(next, [found.motion, ...(around ? [around] : []), ...starts], undefined);
    // what is near the right place, but not quite seen there, is nearer after each time
    for (let round = 0; round < 3 && !far.lost && far.confidence < QUITE_SEEN; round++) {
      const nearer = this.#best(next, [far.motion], undefined);
      if (nearer.lost || nearer.confidence <= far.confidence) break;
      far = nearer;
    }
    if (!far.lost && far.confidence > Math.max(SURE_AFAR, found.confidence)) return far;
    if (found.lost || found.confidence > LITTLE_SEEN) return found;
    // a texture that repeats fits elsewhere too, though never as well
    return { ...found, lost: this.#insideShare(next, found.motion) < MOSTLY_INSIDE ? 'left the picture' : 'covered' };
  }

  /** Looks for the region anew near a guess, after a gap. */
  resume(next: Pyramid, guess: Homography, holdOut?: Mask): TrackedFrame {
    this.#weight = textured(this.#anchor.template);
    this.#from = this.#places = new Float64Array(0);
    this.#kept = new Uint8Array(0);
    this.#h1 = guess;
    if (this.textureErrorPx > LARGEST_TEXTURE_ERROR_PX)
      return { motion: guess, confidence: 0, expectedErrorPx: this.textureErrorPx, lost: 'no texture' };
    this.#flex?.forget();
    const found = this.#taken(next, this.#best(next, [guess, ...this.#searched(next, [guess], 3)], holdOut), holdOut);
    if (found.lost) return found;
    this.#age = KEEP_FRAMES;
    this.#h2 = undefined;
    return found;
  }

  #carriedByPoints(next: Pyramid, predicted: Homography, holdOut: Mask | undefined): Homography | undefined {
    if (this.#age >= KEEP_FRAMES || this.#places.length < 24) this.#findPoints(holdOut);
    if (this.#places.length < 12) return undefined;
    const guesses = new Float64Array(this.#places.length);
    for (let i = 0; i < guesses.length; i += 2) guesses.set(project(predicted, this.#from[i]!, this.#from[i + 1]!), i);
    const { places, kept } = followPoints(this.#previous, next, this.#places, guesses);
    if (holdOut)
      for (let i = 0; i < kept.length; i++)
        if (touches(holdOut, places[2 * i]!, places[2 * i + 1]!, POINT_REACH)) kept[i] = 0;
    const fit = robustMotion(this.#model, this.#h1, this.#from, places, kept, this.#seed + this.#frame);
    [this.#places, this.#kept] = [places, kept];
    return fit?.motion;
  }

  /** New corners on the frame before, where the region is seen. */
  #findPoints(holdOut: Mask | undefined): void {
    const back = inverted(this.#h1);
    const quad = projectQuad(this.#h1, quadOf(this.#regionBox));
    const [xs, ys] = [quad.map((p) => p[0]), quad.map((p) => p[1])];
    const allowed = (x: number, y: number) => {
      if (holdOut && touches(holdOut, x, y, POINT_REACH)) return false;
      const [rx, ry] = project(back, x, y);
      return isInside(this.#region, rx, ry) && this.#weight[this.#blockOf(rx, ry)] !== 0;
    };
    const spacing = Math.max(Math.sqrt(Math.abs(quadArea(quad)) / MOST_POINTS) * 0.7, 5);
    this.#places = cornersIn(
      this.#previous[0]!,
      { x0: Math.min(...xs), y0: Math.min(...ys), x1: Math.max(...xs), y1: Math.max(...ys) },
      allowed,
      MOST_POINTS,
      spacing,
    );
    this.#from = new Float64Array(this.#places.length);
    for (let i = 0; i < this.#places.length; i += 2)
      this.#from.set(project(back, this.#places[i]!, this.#places[i + 1]!), i);
    this.#age = 0;
  }
  /** The anchor's block that a place of the reference frame lies in. */
  #blockOf(x: number, y: number): number {
    const { motion, box } = this.#anchor;
    const [ax, ay] = project(motion, x, y);
    const at = (v: number, lo: number, hi: number) =>
      Math.min(Math.max(Math.floor(((v - lo) / (hi - lo)) * GRID), 0), GRID - 1);
    return at(ay, box.y0, box.y1) * GRID + at(ax, box.x0, box.x1);
  }

  /** The motion that points of the frame before imply. */
  #fitted(points: FollowedPoints | undefined): Homography | undefined {
    if (!points) return undefined;
    const back = inverted(this.#h1);
    const from = points.was.slice();
    for (let i = 0; i < from.length; i += 2) from.set(project(back, from[i]!, from[i + 1]!), i);
    return robustMotion(this.#model, this.#h1, from, points.places, points.kept, this.#seed + this.#frame)?.motion;
  }

  /** Guesses on a grid about some motions, best first: for when the region was out of sight, or has gone far. */
  #searched(next: Pyramid, about: readonly Homography[], most: number): Homography[] {
    const { template, box, motion } = this.#anchor;
    const reach = Math.min(Math.max(Math.max(box.x1 - box.x0, box.y1 - box.y0) / 4, 12), 60);
    const step = Math.max(reach / 6, 3);
    const back = inverted(motion);
    const list: { h: Homography; score: number }[] = [];
    for (const guess of about)
      for (let dy = -reach; dy <= reach; dy += step)
        for (let dx = -reach; dx <= reach; dx += step) {
          const h = compose([1, 0, dx, 0, 1, dy, 0, 0, 1], guess);
          list.push({ h, score: agreement(template, template.coarse, next, compose(h, back)) });
        }
    return list
      .sort((a, b) => b.score - a.score)
      .slice(0, most)
      .map((l) => l.h);
  }

  /** Aligns from each start in turn, best looking first, until one is believed. */
  #best(next: Pyramid, starts: readonly Homography[], holdOut: Mask | undefined): Candidate | TrackedFrame {
    const { template, motion } = this.#anchor;
    const back = inverted(motion);
    const scored = starts
      .map((h) => ({ h, score: agreement(template, template.coarse, next, compose(h, back)) }))
      .sort((a, b) => b.score - a.score);
    let best: Candidate | undefined;
    for (const { h } of scored) {
      const candidate = this.#aligned(next, compose(h, back), holdOut);
      if (candidate && (!best || this.#trust(candidate) > this.#trust(best))) best = candidate;
      // what is held out is not judged, so that a wrong fit looks as good as a right one: only comparing tells
      if (best && best.confidence > 0.6 && !holdOut) break;
    }
    const fallback = scored[0]?.h ?? this.#h1;
    const inside = this.#insideShare(next, best?.motion ?? fallback);
    if (inside < LEAST_INSIDE)
      return {
        motion: best?.motion ?? fallback,
        confidence: Math.min(best?.confidence ?? 0, LEAST_CONFIDENCE),
        expectedErrorPx: best?.expectedErrorPx ?? Infinity,
        lost: 'left the picture',
      };
    // too little was left to go by: because it went out, or because of what is in front of it
    const isGoing = inside < MOSTLY_INSIDE;
    if (!best)
      return {
        motion: fallback,
        confidence: 0,
        expectedErrorPx: Infinity,
        lost: isGoing ? 'left the picture' : 'covered',
      };
    const isAstray = this.#isAstray(best.motion);
    const least = isAstray === false ? LEAST_GOING_ON : LEAST_CONFIDENCE;
    if (best.confidence < least) return { ...best, lost: isGoing ? 'left the picture' : 'covered' };
    if (best.confidence < LITTLE_SEEN && isAstray) return { ...best, lost: isGoing ? 'left the picture' : 'covered' };
    if (best.expectedErrorPx > LARGEST_ERROR_PX) return { ...best, lost: isGoing ? 'left the picture' : 'no texture' };
    return best;
  }
  /**
   * By which one of several fits is chosen: one whose residuals are larger than on earlier frames has part of something
   * else in it.
   */
  #trust({ confidence, aligned }: Candidate): number {
    return confidence * Math.min(this.#carried / aligned.sigma, 1);
  }
  /**
   * Does a motion break with the frames before? Where little of the region is seen, such a one is the occluder's more
   * likely than the region's. Undefined where nothing is known of how it went.
   */
  #isAstray(motion: Homography): boolean | undefined {
    // a soft surface's plane motion is no single thing: it changes with how its bending is shared out
    if (!this.#h2 || this.#flex) return undefined;
    const quad = quadOf(this.#regionBox);
    const [before, last, found] = [this.#h2, this.#h1, motion].map((h) => projectQuad(h, quad)) as [Quad, Quad, Quad];
    const usual = projectQuad(compose(compose(this.#h1, inverted(this.#h2)), this.#h1), quad);
    return meanDistance(found, usual) > Math.max(STRAY_PX, 0.5 * meanDistance(before, last));
  }

  /** Share of the region's samples that a motion puts on the picture. */
  #insideShare(next: Pyramid, h: Homography): number {
    const { fine } = this.#anchor.template;
    const toFrame = compose(h, inverted(this.#anchor.motion));
    const { width, height } = next[0]!;
    const every = Math.max(Math.floor(fine.count / 500), 1);
    let [n, all] = [0, 0];
    for (let i = 0; i < fine.count; i += every) {
      const [x, y] = project(toFrame, fine.x[i]!, fine.y[i]!);
      all++;
      if (x > 0 && y > 0 && x < width && y < height) n++;
    }
    return all === 0 ? 0 : n / all;
  }

  /** Goes on from a frame that is believed, its bending included. */
  #taken(next: Pyramid, found: Candidate | TrackedFrame, holdOut: Mask | undefined): TrackedFrame {
    if (!('aligned' in found) || found.lost) return found;
    this.#accept(next, found, holdOut);
    if (!this.#flex) return found;
    const back = inverted(found.motion);
    const isSeen = (x: number, y: number) =>
      !(holdOut && isInside(holdOut, x, y)) && found.seen[this.#blockOf(...project(back, x, y))] !== 0;
    return { ...found, flex: this.#flex.find(next, found.motion, found.aligned.gain, found.aligned.bias, isSeen) };
  }
  /** The template's samples where the region's bending on the frame before puts them. */
  #flexed(samples: Template['fine']): Template['fine'] {
    const flex = this.#flex?.last;
    if (!flex) return samples;
    const [x, y] = [samples.x.slice(), samples.y.slice()];
    for (let i = 0; i < samples.count; i++) {
      const [dx, dy] = flexAt(flex, quadOf(this.#regionBox), samples.x[i]!, samples.y[i]!);
      x[i] = x[i]! + dx;
      y[i] = y[i]! + dy;
    }
    return { ...samples, x, y };
  }

  /** Aligns to the anchor's look, coarse then fine, and judges what is seen. `start`: anchor's frame to this one. */
  #aligned(next: Pyramid, start: Homography, holdOut: Mask | undefined): Candidate | undefined {
    const { template, model, quad, motion: toAnchor } = this.#anchor;
    const samples = { coarse: this.#flexed(template.coarse), fine: this.#flexed(template.fine) };
    const coarse = align(model, samples.coarse, next, start, this.#weight, this.#carried, 8, this.#gain, this.#bias, {
      held: holdOut && heldOut(samples.coarse, start, holdOut),
    });
    const first = coarse?.motion ?? start;
    const weight = this.#seenBlocks(next, first, holdOut, samples.coarse).seen.map((v) => (v > 0 ? 1 : 0));
    const own = textured(template);
    const uncovered =
      !holdOut &&
      this.textureErrorPx < SURE_TEXTURE_PX &&
      weight.reduce((n, w) => n + w, 0) >= UNCOVERED * own.reduce((n, w) => n + w, 0);
    const fine = align(
      model,
      samples.fine,
      next,
      first,
      weight,
      this.#carried,
      8,
      coarse?.gain ?? this.#gain,
      coarse?.bias ?? this.#bias,
      { held: holdOut && heldOut(samples.fine, first, holdOut), uncovered },
    );
    if (!fine || !isSoundQuad(projectQuad(fine.motion, quad), quad)) return undefined;
    const growth =
      quadArea(projectQuad(fine.motion, quad)) / quadArea(projectQuad(compose(this.#h1, inverted(toAnchor)), quad));
    if (!(growth > 0.5 && growth < 2)) return undefined;
    const judged = this.#seenBlocks(next, fine.motion, holdOut, samples.fine);
    const expectedErrorPx = expectedError(model, quad, fine.motion, fine, fine.sigma, template.trueShare);
    const confidence = Math.min(Math.max(judged.share, 0), 1) / (1 + (expectedErrorPx / LARGEST_ERROR_PX) ** 2);
    return {
      motion: compose(fine.motion, toAnchor),
      confidence,
      expectedErrorPx,
      lost: undefined,
      aligned: fine,
      seen: judged.seen,
      likeness: judged.likeness,
    };
  }

  /**
   * Which blocks show the region, and the share of its texture that does, of what lies on the picture and not under a
   * hold-out.
   */
  #seenBlocks(
    next: Pyramid,
    toFrame: Homography,
    holdOut: Mask | undefined,
    samples: Template['fine'],
  ): { seen: Float64Array; share: number; likeness: number } {
    const { template } = this.#anchor;
    const read = new Float32Array(samples.count);
    readSamples(read, samples, next, toFrame);
    if (holdOut)
      heldOut(samples, toFrame, holdOut).forEach((held, i) => {
        if (held) read[i] = -1;
      });
    const { ncc, gain } = blockCorrelation(samples, read);
    const usual = median(gain.filter((g, b) => ncc[b]! > SEEN && Number.isFinite(g))) || 1;
    const seen = new Float64Array(GRID * GRID);
    let [own, all] = [0, 0];
    const likeness: number[] = [];
    for (let b = 0; b < seen.length; b++) {
      if (template.share[b] === 0) continue;
      if (Number.isNaN(ncc[b]!)) {
        seen[b] = NaN;
        continue;
      }
      const signal = Math.max(template.variance[b]! - template.noise ** 2, 0);
      // noise in both pictures lowers the correlation of even a perfect match
      const expected = Math.max(signal / (signal + template.noise ** 2), 0.15);
      const like = Math.min(ncc[b]! / expected, 1);
      const steady = gain[b]! < 2.2 * usual && gain[b]! > usual / 3;
      all += template.share[b]!;
      if (like < SEEN || !steady) continue;
      seen[b] = 1;
      own += template.share[b]! * like;
      likeness.push(like);
    }
    return { seen, share: all === 0 ? 0 : own / all, likeness: median(Float64Array.from(likeness)) };
  }

  #accept(next: Pyramid, found: Candidate, holdOut: Mask | undefined): void {
    this.#h2 = this.#h1;
    this.#h1 = found.motion;
    this.#carried = Math.max(0.7 * this.#carried + 0.3 * found.aligned.sigma, this.#anchor.template.noise);
    [this.#gain, this.#bias] = [found.aligned.gain, found.aligned.bias];
    // what is off the picture or under a hold-out counts again as soon as it comes back
    const back = (b: number) => (this.#anchor.template.share[b]! > 0 ? 1 : 0);
    this.#weight = found.seen.map((v, b) => (Number.isNaN(v) ? back(b) : v));
    this.#previous = next;
    this.#age++;
    this.#keepAgreeing(found.motion);
    let [own, all] = [0, 0];
    found.seen.forEach((v, b) => {
      if (this.#anchor.template.share[b]! === 0) return;
      all++;
      if (v === 1) own++;
    });
    this.#wholeFrames = own > 0.85 * all && found.confidence > 0.5 ? this.#wholeFrames + 1 : 0;
    // what bends is always laid over its reference frame: its flex is stated there
    if (this.#flex) return;
    // the look has changed all over while nothing covers it: take the new look before the old one is lost
    if (this.#wholeFrames >= 3 && (found.likeness < 0.7 || this.#sizeChanged(found.motion)))
      this.#reanchor(next, found.motion, holdOut);
  }
  #sizeChanged(h: Homography): boolean {
    const { quad, motion } = this.#anchor;
    const growth = quadArea(projectQuad(compose(h, inverted(motion)), quad)) / quadArea(quad);
    return growth > 2.2 || growth < 0.45;
  }
  #reanchor(next: Pyramid, h: Homography, holdOut: Mask | undefined): void {
    const { width, height } = this.#region;
    const back = inverted(h);
    const inside = new Uint8Array(width * height);
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++)
        if (isInside(this.#region, ...project(back, x + 0.5, y + 0.5))) inside[y * width + x] = 1;
    this.#anchor = this.#anchorAt(next, { width, height, inside }, holdOut, h);
    this.#weight = textured(this.#anchor.template);
    [this.#gain, this.#bias] = [1, 0];
    this.#wholeFrames = 0;
  }

  /** Drops points that did not come along with the motion found, or lie where something covers the region. */
  #keepAgreeing(h: Homography): void {
    const [from, places]: [number[], number[]] = [[], []];
    for (let i = 0; i < this.#kept.length; i++) {
      if (!this.#kept[i]) continue;
      const [x, y, u, v] = [this.#from[2 * i]!, this.#from[2 * i + 1]!, this.#places[2 * i]!, this.#places[2 * i + 1]!];
      if (squaredError(h, x, y, u, v) > 2.25 || this.#weight[this.#blockOf(x, y)] === 0) continue;
      from.push(x, y);
      places.push(u, v);
    }
    if (from.length / 2 < Math.max(this.#kept.length * 0.5, 30)) this.#age = KEEP_FRAMES;
    [this.#from, this.#places, this.#kept] = [Float64Array.from(from), Float64Array.from(places), new Uint8Array(0)];
  }
}

const meanDistance = (p: Quad, q: Quad): number =>
  p.reduce((sum, c, i) => sum + Math.hypot(c[0] - q[i]![0], c[1] - q[i]![1]), 0) / 4;

/** Which samples a motion puts under a hold-out, or so near that the blur of its edge reaches them. */
function heldOut(samples: Template['fine'], toFrame: Homography, holdOut: Mask): Uint8Array {
  const out = new Uint8Array(samples.count);
  const near = 1 << samples.level;
  for (let i = 0; i < samples.count; i++) {
    const [x, y] = project(toFrame, samples.x[i]!, samples.y[i]!);
    if (touches(holdOut, x, y, near)) out[i] = 1;
  }
  return out;
}

/** Every block that holds texture, and no other. */
const textured = ({ share }: Template): Float64Array => share.map((s) => (s > 0 ? 1 : 0));

/**
 * Standard deviation of the region's corners that the fit's own covariance implies: √ of the mean squared distance.
 * `trueShare`: noise in the gradients makes a fit look surer than it is.
 */
function expectedError(
  model: MotionModel,
  quad: Quad,
  motion: Homography,
  { normal, gain }: Aligned,
  sigma: number,
  trueShare: number,
): number {
  if (trueShare <= 0) return Infinity;
  const n = model.size + 2;
  const covariance: Float64Array[] = [];
  for (let k = 0; k < model.size; k++) {
    const a = normal.slice();
    for (let c = 0; c < n; c++) a[c * n + c] = a[c * n + c]! * (1 + 1e-9) + 1e-12;
    const b = new Float64Array(n);
    b[k] = 1;
    if (!solveInPlace(a, b, n)) return Infinity;
    covariance.push(b);
  }
  const flow = new Float64Array(2 * model.size);
  const stretch = Math.sqrt(Math.abs(quadArea(projectQuad(motion, quad)) / quadArea(quad)));
  let sum = 0;
  for (const [x, y] of quad) {
    model.flowInto(flow, x, y);
    for (const axis of [0, 1])
      for (let k = 0; k < model.size; k++)
        for (let l = 0; l < model.size; l++)
          sum += (flow[2 * k + axis]! * covariance[k]![l]! * flow[2 * l + axis]!) / 4;
  }
  return (Math.sqrt(Math.max(sum, 0)) * sigma * OVERSURE * stretch) / (gain * trueShare);
}
