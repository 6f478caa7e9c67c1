import type { OklabPlanes } from '../colour/oklabPlanes.ts';
import { boundsOfMatte, cutOut, grownBox, putBack, unitedBox, type PixelBox } from '../matte/bounds.ts';
import { connectedComponents } from '../matte/components.ts';
import { markEdgeBand } from '../matte/edgeBand.ts';
import { oddsFromTable, type ColourOdds } from '../scribble/colourOdds.ts';
import { cutPixelsInPlace } from '../scribble/cutOutline.ts';
import { cutPatches } from '../scribble/cutPatches.ts';
import { maskOfPatches, patchOfEach, preparedPart } from '../scribble/preparedPicture.ts';
import { project, STILL, type Homography } from '../track/homography.ts';
import type { Pyramid } from '../track/pyramid.ts';
import { coloursOf, distancesTo, partOf, wholePlane } from './aroundMask.ts';
import { FAR_OUT, motionEvidence, type Memory, type Moment } from './evidence.ts';
import { groundMotion } from './groundMotion.ts';
import { innerMotion, type InnerMotion } from './innerMotion.ts';

/** A frame as selections are carried over: its colours and its luma, at the size outlines are cut at. */
export interface CarriedPicture {
  oklab: OklabPlanes;
  luma: Pyramid;
}
/** What was found on a frame: 0 or 1; nothing where the piece is out of sight. */
export interface CarriedFrame {
  mask: Float32Array;
  isSeen: boolean;
  /** How sure it is, 0..1: about the overlap with the truth (IoU) that is to be expected. */
  certainty: number;
}

/** What colour says counts for so much of what it says where strokes are. */
const COLOUR = 0.6;
/** Of that, this much by what the colours were a few frames ago: light changes; the rest as they were taught. */
const RECENT = 0.3;
const RELEARNT_EVERY = 4;
/** What the taught shape says, as log-odds, so many pixels from its outline; and more where nothing else explains. */
const SHAPE = 1.2;
const SHAPE_WHERE_OPEN = 1;
const SHAPE_PX = 5;
/** The shape takes up what comes in at this rate a frame, and forgets what is gone at that. */
const TAKEN_IN = 0.2;
const FORGOTTEN = 0.01;
/** What is remembered of the covered becomes less known by this factor a frame. */
const FADING = 0.99;
/** Half width of the band in which the outline is cut pixel by pixel, and of that about the taught one. */
const BAND_PX = 6;
const SHAPE_BAND_PX = 3;
/** The box that is looked at is the piece's, before and after, grown by this share. */
const GROWN = 0.12;
/** A region of which less lies over what was carried is something else. */
const LEAST_SHARED = 0.15;
/** Of what was taught, less than this is out of sight; from this on it is seen well enough to be found again by. */
const OUT_OF_SIGHT = 0.02;
const SEEN_WELL = 0.7;
/** Something that was out of sight is not believed to be back where fewer points, or less of its shape, agree. */
const LEAST_SHARE_AGAIN = 0.4;
const LEAST_SAME_AGAIN = 0.5;
/** Odds under this say little; their share of the piece tells how sure it is (measured: bench/README.md). */
const UNSURE_ODDS = 1;
const CERTAINTY_PER_UNSURE = 5;

type Known = CarriedPicture & Moment;

/** All that a carrier goes on from: plain values and planes, as a structured clone takes them. */
export interface CarrierState {
  width: number;
  height: number;
  /** Pixels of what was taught. */
  area: number;
  /** What the colours say, as taught and as of late, as tables. */
  taught: Float32Array;
  recent: Float32Array;
  last: Known;
  /** When it was seen well last, and how many frames ago: often the very moment of `last`. */
  lastWell: { moment: Known; frames: number };
  velocity: Homography;
  steps: number;
  framesUnseen: number;
}

/**
 * Carries a selection from frame to frame. Its motion is told from points inside it alone, that of the ground from
 * points around it; both are remembered as they looked when last seen, so that each pixel of the next frame can be
 * asked which of them it shows; with the colours that were taught and the shape, the smallest cut decides. What goes
 * out of sight is looked for, where it should be by then, as it was when last seen well.
 */
export class SelectionCarrier {
  readonly #width: number;
  readonly #height: number;
  readonly #area: number;
  readonly #taughtTable: Float32Array;
  readonly #taught: ColourOdds;
  #recentTable: Float32Array;
  #recent: ColourOdds;
  #last: Known;
  #lastWell: { moment: Known; frames: number };
  #velocity: Homography;
  #steps: number;
  #framesUnseen: number;

  /** Goes on from where another was, and finds what that would have found. */
  constructor(state: CarrierState) {
    [this.#width, this.#height, this.#area] = [state.width, state.height, state.area];
    [this.#taughtTable, this.#recentTable] = [state.taught, state.recent];
    [this.#taught, this.#recent] = [oddsFromTable(state.taught), oddsFromTable(state.recent)];
    [this.#last, this.#lastWell] = [state.last, { ...state.lastWell }];
    [this.#velocity, this.#steps, this.#framesUnseen] = [state.velocity, state.steps, state.framesUnseen];
  }
  /** Sets out from a frame. `mask`: what is selected on it, 0 or 1. */
  static from(frame: CarriedPicture, mask: Float32Array): SelectionCarrier {
    const { width, height } = frame.luma[0]!;
    const outside = new Float32Array(mask.length);
    for (let i = 0; i < mask.length; i++) outside[i] = 1 - mask[i]!;
    const last: Known = {
      ...frame,
      mask,
      shape: distancesTo(mask, width, height),
      piece: { looks: frame.oklab, known: mask },
      ground: { looks: frame.oklab, known: outside },
    };
    const taught = coloursOf(frame.oklab, mask, width, height);
    return new SelectionCarrier({
      width,
      height,
      area: areaOf(mask),
      taught,
      recent: taught,
      last,
      lastWell: { moment: last, frames: 0 },
      velocity: STILL,
      steps: 0,
      framesUnseen: 0,
    });
  }
  /** Where it is: its planes are not copied, and not written to by later steps. */
  state(): CarrierState {
    return {
      width: this.#width,
      height: this.#height,
      area: this.#area,
      taught: this.#taughtTable,
      recent: this.#recentTable,
      last: this.#last,
      lastWell: { ...this.#lastWell },
      velocity: this.#velocity,
      steps: this.#steps,
      framesUnseen: this.#framesUnseen,
    };
  }

  /** The selection on the next frame (or the one before, going backwards: always away from the first). */
  step(next: CarriedPicture): CarriedFrame {
    this.#lastWell.frames++;
    const guess = this.#guess(this.#last, this.#framesUnseen + 1);
    return this.#carried(this.#last, guess, next, this.#framesUnseen > 0) ?? this.#foundAgain(next) ?? this.#unseen();
  }
  #foundAgain(next: CarriedPicture): CarriedFrame | undefined {
    const { moment, frames } = this.#lastWell;
    return moment === this.#last ? undefined : this.#carried(moment, this.#guess(moment, frames), next, true);
  }
  #unseen(): CarriedFrame {
    this.#framesUnseen++;
    return { mask: new Float32Array(this.#width * this.#height), isSeen: false, certainty: 0 };
  }

  /** Where it should be by now: as it moved last, as a shift alone over more than a frame. */
  #guess({ mask }: Moment, frames: number): Homography {
    const box = boundsOfMatte(mask, this.#width, this.#height);
    if (frames === 1 || !box) return this.#velocity;
    const [x, y] = [(box.x0 + box.x1) / 2, (box.y0 + box.y1) / 2];
    const [u, v] = project(this.#velocity, x, y);
    return [1, 0, frames * (u - x), 0, 1, frames * (v - y), 0, 0, 1];
  }

  /** Undefined where it is not found, or not believed. */
  #carried(from: Known, guess: Homography, next: CarriedPicture, isSearch: boolean): CarriedFrame | undefined {
    const before = boundsOfMatte(from.mask, this.#width, this.#height);
    if (!before) return undefined;
    const ground = groundMotion(from.luma, next.luma, from.mask);
    const motion = innerMotion(from.luma, next.luma, from.mask, before, guess, ground);
    const box = motion && this.#boxToLookAt(from, before, motion);
    if (!box) return undefined;
    const seen = motionEvidence(from, next.oklab, motion.back, ground, box, this.#width, this.#height);
    const oklab = partOf(next.oklab, this.#width, box);
    const odds = this.#oddsOf(oklab, seen.odds, seen.open, seen.carried.shape);
    const cut = cutOf(oklab, odds, box, seen.carried.shape);
    keepWhatBelongs(cut, seen.carried, box);
    if (areaOf(cut) < OUT_OF_SIGHT * this.#area) return undefined;
    const { same, unsure } = judged(cut, seen.carried.mask, odds);
    if (isSearch && (motion.share < LEAST_SHARE_AGAIN || same < LEAST_SAME_AGAIN)) return undefined;
    const mask = new Float32Array(this.#width * this.#height);
    putBack(mask, this.#width, cut, box);
    this.#remember(next, mask, cut, oklab, seen.carried, box);
    if (!isSearch) this.#velocity = motion.forth;
    return { mask, isSeen: true, certainty: Math.max(1 - CERTAINTY_PER_UNSURE * unsure, 0) };
  }

  #boxToLookAt(from: Known, before: PixelBox, { forth }: InnerMotion): PixelBox | undefined {
    const [width, height] = [this.#width, this.#height];
    const there = boxAfter(before, forth, width, height);
    if (!there) return undefined;
    const known = boundsOfMatte(from.piece.known, width, height) ?? before;
    const all = unitedBox(unitedBox(before, there), boxAfter(known, forth, width, height) ?? there);
    return grownBox(all, GROWN, width, height);
  }

  /** Log-odds of each pixel of a box being in. */
  #oddsOf({ L, a, b }: OklabPlanes, byMotion: Float32Array, open: Float32Array, shape: Float32Array): Float32Array {
    const odds = new Float32Array(byMotion.length);
    for (let o = 0; o < odds.length; o++) {
      const taught = this.#taught(L[o]!, a[o]!, b[o]!);
      const recent = this.#recent(L[o]!, a[o]!, b[o]!);
      const near = Math.min(Math.max(shape[o]! / SHAPE_PX, -1), 1);
      const byShape = (SHAPE + SHAPE_WHERE_OPEN * open[o]!) * near;
      odds[o] = byMotion[o]! + COLOUR * ((1 - RECENT) * taught + RECENT * recent) + byShape;
    }
    return odds;
  }

  /** Takes a frame for the last seen: each side's looks where it is seen, those carried along where it is covered. */
  #remember(
    next: CarriedPicture,
    mask: Float32Array,
    cut: Float32Array,
    oklab: OklabPlanes,
    { piece, ground, shape }: Moment,
    box: PixelBox,
  ): void {
    const now = cutOut(distancesTo(mask, this.#width, this.#height), this.#width, box);
    for (let o = 0; o < now.length; o++) {
      const was = shape[o]!;
      shape[o] = was + (now[o]! > was ? TAKEN_IN : FORGOTTEN) * (now[o]! - was);
      const isIn = cut[o]! >= 0.5;
      const seen = isIn ? piece : ground;
      seen.looks.L[o] = oklab.L[o]!;
      seen.looks.a[o] = oklab.a[o]!;
      seen.looks.b[o] = oklab.b[o]!;
      seen.known[o] = 1;
      if (isIn) ground.known[o]! *= FADING;
      // what lies off the shape was never covered: it was taken in by mistake
      else piece.known[o]! *= shape[o]! > -1 ? FADING : 0.5;
    }
    this.#last = {
      ...next,
      mask,
      shape: wholePlane(shape, box, -FAR_OUT, this.#width, this.#height),
      // all that lies off the box is ground
      piece: this.#wholeMemory(piece, next.oklab, box, 0),
      ground: this.#wholeMemory(ground, next.oklab, box, 1),
    };
    this.#framesUnseen = 0;
    if (areaOf(cut) >= SEEN_WELL * this.#area) this.#lastWell = { moment: this.#last, frames: 0 };
    if (++this.#steps % RELEARNT_EVERY !== 0) return;
    this.#recentTable = coloursOf(next.oklab, mask, this.#width, this.#height);
    this.#recent = oddsFromTable(this.#recentTable);
  }
  #wholeMemory({ looks, known }: Memory, rest: OklabPlanes, box: PixelBox, isKnown: number): Memory {
    const whole = (part: Float32Array, around: Float32Array | number) =>
      wholePlane(part, box, around, this.#width, this.#height);
    const L = whole(looks.L, rest.L);
    const a = whole(looks.a, rest.a);
    const b = whole(looks.b, rest.b);
    return { looks: { L, a, b }, known: whole(known, isKnown) };
  }
}

function areaOf(mask: Float32Array): number {
  let area = 0;
  for (let i = 0; i < mask.length; i++) area += mask[i]!;
  return area;
}

/**
 * The smallest cut of a part of a picture: patch by patch, then pixel by pixel along the outline and along that of the
 * shape as it was taught, so that what is narrower than a patch is not lost.
 */
function cutOf(oklab: OklabPlanes, odds: Float32Array, box: PixelBox, shape: Float32Array): Float32Array {
  const picture = preparedPart(oklab, box.x1 - box.x0, box.y1 - box.y0);
  const patch = patchOfEach(picture);
  const { count } = picture.patches;
  const [mean, n] = [new Float64Array(count), new Float64Array(count)];
  for (let i = 0; i < patch.length; i++) {
    mean[patch[i]!]! += odds[i]!;
    n[patch[i]!]!++;
  }
  for (let k = 0; k < count; k++) mean[k]! /= n[k]! || 1;
  const mask = maskOfPatches(patch, cutPatches(picture.patches, new Int32Array(count), mean));
  const { width, height } = picture.fine;
  const open = new Uint8Array(mask.length);
  markEdgeBand(open, mask, width, height, BAND_PX);
  markEdgeBand(
    open,
    shape.map((d) => (d > 0 ? 1 : 0)),
    width,
    height,
    SHAPE_BAND_PX,
  );
  cutPixelsInPlace(mask, picture.fine, new Int8Array(mask.length), (i) => odds[i]!, open);
  return mask;
}

/** Leaves of a mask only the regions of which a good part lies over what was known of the piece, or over its shape. */
function keepWhatBelongs(mask: Float32Array, { piece, shape }: Moment, box: PixelBox): void {
  const inside = new Uint8Array(mask.length);
  inside.set(mask);
  const { labels, count } = connectedComponents(inside, box.x1 - box.x0, box.y1 - box.y0, true);
  const [area, shared] = [new Float64Array(count + 1), new Float64Array(count + 1)];
  for (let i = 0; i < mask.length; i++) {
    if (!inside[i]) continue;
    area[labels[i]!]!++;
    if (piece.known[i]! >= 0.5 || shape[i]! > 0) shared[labels[i]!]!++;
  }
  for (let i = 0; i < mask.length; i++)
    if (inside[i] && shared[labels[i]!]! < LEAST_SHARED * area[labels[i]!]!) mask[i] = 0;
}

/** How much of a mask is what was carried there (IoU), and of how much of both the odds say little. */
function judged(mask: Float32Array, carried: Float32Array, odds: Float32Array): { same: number; unsure: number } {
  let [both, either, unsure] = [0, 0, 0];
  for (let o = 0; o < mask.length; o++) {
    const isIn = mask[o]! >= 0.5;
    const was = carried[o]! >= 0.5;
    if (isIn && was) both++;
    if (!isIn && !was) continue;
    either++;
    if (Math.abs(odds[o]!) < UNSURE_ODDS) unsure++;
  }
  return { same: both / Math.max(either, 1), unsure: unsure / Math.max(either, 1) };
}

/** Where a motion takes a box, a little larger; undefined where that is off the picture. */
function boxAfter({ x0, y0, x1, y1 }: PixelBox, motion: Homography, width: number, height: number) {
  const corners = (
    [
      [x0, y0],
      [x1, y0],
      [x1, y1],
      [x0, y1],
    ] as const
  ).map(([x, y]) => project(motion, x, y));
  const [xs, ys] = [corners.map((c) => c[0]), corners.map((c) => c[1])];
  const to = {
    x0: Math.max(Math.floor(Math.min(...xs)) - 4, 0),
    y0: Math.max(Math.floor(Math.min(...ys)) - 4, 0),
    x1: Math.min(Math.ceil(Math.max(...xs)) + 4, width),
    y1: Math.min(Math.ceil(Math.max(...ys)) + 4, height),
  };
  return to.x1 - to.x0 < 2 || to.y1 - to.y0 < 2 ? undefined : to;
}
