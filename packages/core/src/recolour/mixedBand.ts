// The soft edge of a matte: its mixed pixels, the pixels round them, and how a part of the picture floods over them.

import { pixelsBetween } from '../matte/between.ts';

/** Above this a pixel shows the piece alone, below its complement none of it. */
export const SOLID = 0.98;
/** Between these, floats as α is, a pixel is mixed enough to be unmixed. */
const LEAST_MIXED = Math.fround(0.004);
const MOST_MIXED = Math.fround(0.996);
/** Steps to the eight round a pixel: left, right, above and below first. */
const ASIDE = [-1, 1, 0, 0, -1, 1, -1, 1];
const DOWN = [0, 0, -1, 1, -1, -1, 1, 1];

/**
 * The mixed pixels of a matte and, after them, the pixels they touch, each at a place of its own: what is computed over
 * an edge walks over places, not over the picture.
 */
export interface MixedBand {
  /** Mixed pixels come first: this many places. */
  mixed: number;
  /** Pixel of each place; those of the mixed ones ascend. */
  index: Uint32Array;
  /** α of each place. */
  alpha: Float32Array;
  /** Eight places round each mixed pixel, left, right, above and below first; −1 beyond the picture. */
  next: Int32Array;
  /** Which connected component each mixed place is of, counted by their first places: no flood leaves one. */
  component: Uint32Array;
  components: number;
}

/** A number for each pixel, all 0, kept from frame to frame: who uses it sets back what they have set. */
let kept = new Int32Array(0);
function placesFor(length: number): Int32Array {
  if (kept.length < length) kept = new Int32Array(length);
  return kept;
}

/** Undefined where nothing is mixed. */
export function mixedBandOf(matte: Float32Array, width: number): MixedBand | undefined {
  const found = pixelsBetween(matte, LEAST_MIXED, MOST_MIXED);
  const mixed = found.length;
  if (mixed === 0) return undefined;
  const pixels = new Uint32Array(Math.min(9 * mixed, matte.length));
  pixels.set(found);
  // 1 above the place, so that 0 is none
  const placed = placesFor(matte.length);
  let places = mixed;
  for (let k = 0; k < mixed; k++) placed[found[k]!] = k + 1;
  const next = new Int32Array(8 * mixed).fill(-1);
  const { length } = matte;
  const away = ASIDE.map((aside, n) => aside + DOWN[n]! * width);
  for (let k = 0; k < mixed; k++) {
    const i = found[k]!;
    const x = i % width;
    const isInside = x > 0 && x < width - 1 && i >= width && i < length - width;
    for (let n = 0; n < 8; n++) {
      const j = i + away[n]!;
      if (!isInside && (j < 0 || j >= length || x + ASIDE[n]! < 0 || x + ASIDE[n]! >= width)) continue;
      if (placed[j] === 0) {
        pixels[places] = j;
        placed[j] = ++places;
      }
      next[8 * k + n] = placed[j]! - 1;
    }
  }
  const alpha = new Float32Array(places);
  for (let p = 0; p < places; p++) {
    alpha[p] = matte[pixels[p]!]!;
    placed[pixels[p]!] = 0;
  }
  return { mixed, index: pixels.slice(0, places), next, alpha, ...componentsOf(next, mixed) };
}

/** Of the neighbours in `next`, those that come before a pixel: left, above, and aside above. */
const BEFORE = [0, 2, 4, 5];
/** The connected components of the mixed places (union-find; the root of each is its first place). */
function componentsOf(next: Int32Array, mixed: number): Pick<MixedBand, 'component' | 'components'> {
  const root = new Uint32Array(mixed);
  for (let k = 0; k < mixed; k++) {
    root[k] = k;
    for (let n = 0; n < 4; n++) {
      const p = next[8 * k + BEFORE[n]!]!;
      if (p < 0 || p >= mixed) continue;
      const one = rootOf(root, p);
      const other = rootOf(root, k);
      if (one < other) root[other] = one;
      else root[one] = other;
    }
  }
  const component = root;
  let components = 0;
  // a root comes before what it is the root of: by then its number stands in its place
  for (let k = 0; k < mixed; k++) component[k] = root[k] === k ? components++ : component[root[k]!]!;
  return { component, components };
}
function rootOf(root: Uint32Array, place: number): number {
  let at = place;
  while (root[at] !== at) at = root[at] = root[root[at]!]!;
  return at;
}

/** How much of one of the two that are mixed the places show. */
export interface Standing {
  /** By place, how much of this part a pixel shows. */
  share: Float32Array;
  /** By place, 1 where the part stands alone: there it is the picture. */
  alone: Uint8Array;
}
export function standingOf({ alpha }: MixedBand, ofPiece: boolean): Standing {
  const share = new Float32Array(alpha.length);
  const alone = new Uint8Array(alpha.length);
  for (let p = 0; p < alpha.length; p++) {
    share[p] = ofPiece ? alpha[p]! : 1 - alpha[p]!;
    if (share[p]! >= SOLID) alone[p] = 1;
  }
  return { share, alone };
}
/**
 * The mixed places where a part does not stand alone, component by component, in each by how much of it they show,
 * falling: a flood goes by this order, and reads in one component only what is near.
 */
export function waitingOf({ alpha, mixed, component, components }: MixedBand, ofPiece: boolean): Uint32Array {
  const all = sorted(alpha, mixed, ofPiece);
  let first = 0;
  while (first < mixed && Math.fround(ofPiece ? alpha[all[first]!]! : 1 - alpha[all[first]!]!) >= SOLID) first++;
  /** Where the next of each component goes. */
  const to = new Uint32Array(components + 1);
  for (let n = first; n < mixed; n++) to[component[all[n]!]! + 1]!++;
  for (let c = 0; c < components; c++) to[c + 1]! += to[c]!;
  const waiting = new Uint32Array(mixed - first);
  for (let n = first; n < mixed; n++) waiting[to[component[all[n]!]!]!++] = all[n]!;
  return waiting;
}

/** One of the two that are mixed: where it stands alone, and the way it floods from there. */
export interface Part extends Standing {
  /** Mixed places that the flood reaches, in its order. */
  order: Uint32Array;
  /** By mixed place, in how many steps it was reached; 0 at its source and where it was not. */
  steps: Uint16Array;
}
const MOST_STEPS = 65_535;
const DIGIT_BITS = 11;
const DIGIT = 2 ** DIGIT_BITS - 1;

/**
 * The piece or its ground, flooded over the mixed pixels that do not show it alone: from where there is more of it to
 * where there is less, each pixel after some neighbour of its own; those that it cannot reach are left out.
 */
export function partOf(band: MixedBand, ofPiece: boolean): Part {
  const { mixed, next } = band;
  const { share, alone } = standingOf(band, ofPiece);
  const steps = new Uint16Array(mixed);
  const waiting = waitingOf(band, ofPiece);
  /** By place, when it has its turn in a round; −1 once a neighbour is known. */
  const turn = new Int32Array(mixed);
  for (let w = 0; w < waiting.length; w++) turn[waiting[w]!] = w;
  /** By turn, a bit each: a neighbour is known, it has not been reached. */
  const due = new Uint32Array((waiting.length >> 5) + 1);
  let dueCount = 0;
  const meet = (p: number) => {
    const w = turn[p]!;
    due[w >> 5]! |= 1 << (w & 31);
    turn[p] = -1;
    dueCount++;
  };
  for (let k = 0; k < mixed; k++) if (alone[k] === 0 && hasAlone(next, k, alone)) meet(k);
  const order = new Uint32Array(waiting.length);
  let n = 0;
  // a pixel less mixed than the neighbour that it is reached from waits for the next round
  while (dueCount > 0)
    for (let word = 0; word < due.length; word++)
      for (let later = due[word]!; later !== 0;) {
        const bit = later & -later;
        const k = waiting[32 * word + 31 - Math.clz32(bit)]!;
        due[word]! ^= bit;
        dueCount--;
        let fewest = MOST_STEPS;
        for (let m = 8 * k; m < 8 * k + 8; m++) {
          const p = next[m]!;
          if (p < 0) continue;
          if (alone[p] === 1) fewest = 0;
          else if (p < mixed) {
            if (steps[p]! > 0 && steps[p]! < fewest) fewest = steps[p]!;
            if (turn[p]! >= 0) meet(p);
          }
        }
        steps[k] = Math.min(fewest + 1, MOST_STEPS);
        order[n++] = k;
        later = due[word]! & ~(bit | (bit - 1));
      }
  return { share, alone, order: order.subarray(0, n), steps };
}

function hasAlone(next: Int32Array, k: number, alone: Uint8Array): boolean {
  for (let m = 8 * k; m < 8 * k + 8; m++) if (next[m]! >= 0 && alone[next[m]!] === 1) return true;
  return false;
}

/**
 * Places 0..count−1 by rising or falling value, equal ones in their order: three passes over 11 bits each (radix sort;
 * the bits of floats from 0 on ascend with them).
 */
function sorted(values: Float32Array, count: number, isFalling: boolean): Uint32Array {
  const bits = new Uint32Array(values.buffer, values.byteOffset, count);
  const turned = isFalling ? DIGIT : 0;
  const starts = new Uint32Array(DIGIT + 2);
  let from = new Uint32Array(count);
  let to = new Uint32Array(count);
  for (let k = 0; k < count; k++) from[k] = k;
  for (let shift = 0; shift < 32; shift += DIGIT_BITS) {
    starts.fill(0);
    for (let n = 0; n < count; n++) starts[(((bits[n]! >>> shift) & DIGIT) ^ turned) + 1]!++;
    for (let d = 0; d < DIGIT; d++) starts[d + 1]! += starts[d]!;
    for (let n = 0; n < count; n++) {
      const k = from[n]!;
      to[starts[((bits[k]! >>> shift) & DIGIT) ^ turned]!++] = k;
    }
    [from, to] = [to, from];
  }
  return from;
}
