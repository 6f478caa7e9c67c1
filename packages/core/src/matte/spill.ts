import type { Spill } from '../document/cleaning.ts';
import type { OklabPlanes } from '../colour/oklabPlanes.ts';
import { maskDistanceInto } from '../shape/nearestSite.ts';
import { shapeMatteInto } from '../shape/shapeMatte.ts';
import { boundsOfMatte, boxAround, cutOut, isWholeBox, putBack, type PixelBox } from './bounds.ts';
import { between, colourField, type Grid } from './colourField.ts';

export const NO_SPILL: Spill = { mode: 'off', reachPx: 40, amount: 1, tolerance: 0.03 };

/**
 * What spill was found: its share in each pixel, and, within the reach, the colour of the piece and of the surroundings
 * there (OKLab a, b).
 */
export interface SpillMap {
  /**
   * 0..1: how much of the piece's colour the pixel carries, times the distance fall-off; 0 inside the matte and far
   * from it.
   */
  share: Float32Array;
  pieceA: Float32Array;
  pieceB: Float32Array;
  surroundA: Float32Array;
  surroundB: Float32Array;
}

/** A piece and surroundings closer than this in a,b (OKLab) cannot be told apart, so nothing is called spill. */
const LEAST_CONTRAST = 0.02;
/** Shares under this are noise. */
const LEAST_SHARE = 0.02;
/** The float below a half: what is over it belongs to the piece. */
const UNDER_HALF = 0.5 - 2 ** -25;
/** How many samples of the fields of colour lie along the reach, at least: they are smooth over it. */
const SAMPLES_IN_REACH = 9;

function spillWithin(
  alpha: Float32Array,
  { a, b }: Pick<OklabPlanes, 'a' | 'b'>,
  width: number,
  height: number,
  spill: Spill,
  scale: number,
): SpillMap | undefined {
  const n = alpha.length;
  const mask = new Uint8Array(n);
  let solid = 0;
  for (let i = 0; i < n; i++) if (alpha[i]! >= 0.5) solid += mask[i] = 1;
  const reach = spill.reachPx * scale;
  if (solid === 0 || solid === n || reach < 0.5) return undefined;
  const distance = new Float32Array(n);
  maskDistanceInto(distance, mask, width, height);
  const inside = new Float32Array(n);
  const outside = new Float32Array(n);
  for (let i = 0; i < n; i++) {
    inside[i] = alpha[i]! >= 0.95 ? 1 : 0;
    // the further out, the less bounce: full say from six tenths of the reach on
    const far = Math.min(distance[i]! / (0.6 * reach), 1);
    outside[i] = alpha[i]! > 0.02 ? 0 : far * far;
  }
  const factor = Math.max(Math.floor(reach / SAMPLES_IN_REACH), 1);
  const grid: Grid = { factor, width, height, across: Math.ceil(width / factor), down: Math.ceil(height / factor) };
  // two thirds of the reach: wide enough to see past the bounce
  const sigma = Math.max((reach * 2) / 3 / factor, 1);
  const piece = colourField(a, b, inside, grid, sigma, false);
  const surround = colourField(a, b, outside, grid, sigma, true);
  const map: SpillMap = {
    share: new Float32Array(n),
    pieceA: new Float32Array(n),
    pieceB: new Float32Array(n),
    surroundA: new Float32Array(n),
    surroundB: new Float32Array(n),
  };
  const { across, down } = grid;
  for (let y = 0; y < height; y++) {
    const v = Math.min(Math.max((y + 0.5) / factor - 0.5, 0), down - 1);
    const top = Math.floor(v) * across;
    const bottom = Math.min(top + across, (down - 1) * across);
    const fv = v - Math.floor(v);
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      const d = distance[i]!;
      if (d > reach || alpha[i]! >= 1) continue;
      const u = Math.min(Math.max((x + 0.5) / factor - 0.5, 0), across - 1);
      const left = Math.floor(u);
      const right = Math.min(left + 1, across - 1);
      const fu = u - left;
      map.pieceA[i] = between(piece.a, top, bottom, left, right, fu, fv);
      map.pieceB[i] = between(piece.b, top, bottom, left, right, fu, fv);
      map.surroundA[i] = between(surround.a, top, bottom, left, right, fu, fv);
      map.surroundB[i] = between(surround.b, top, bottom, left, right, fu, fv);
      const wayA = map.pieceA[i] - map.surroundA[i];
      const wayB = map.pieceB[i] - map.surroundB[i];
      const squared = wayA * wayA + wayB * wayB;
      if (squared < LEAST_CONTRAST * LEAST_CONTRAST) continue;
      const offA = a[i]! - map.surroundA[i];
      const offB = b[i]! - map.surroundB[i];
      const along = (offA * wayA + offB * wayB) / squared;
      if (along <= LEAST_SHARE) continue;
      const asideA = offA - along * wayA;
      const asideB = offB - along * wayB;
      const aside = Math.sqrt(asideA * asideA + asideB * asideB);
      const belongs = Math.min(Math.max(2 - aside / spill.tolerance, 0), 1);
      // from the matte's edge the hold is full for half the reach, then lets go
      const fade = Math.min(Math.max(2 - (2 * d) / reach, 0), 1);
      // what the matte already takes is the recolour's; only the rest can be spill
      map.share[i] = Math.min(along, 1) * belongs * fade * (1 - alpha[i]!) * spill.amount;
    }
  }
  return map;
}

/**
 * Finds the spill of a matte. Near the matte each pixel's colour is set on the way from the local colour of the
 * surroundings (the pixels further out) to the local colour of the piece (the pixels well inside): its place on that
 * way, 0..1, is its share; a colour off the way by more than the tolerance is something else. Only a and b of OKLab are
 * looked at: bounce on a dark floor is dark. Undefined when the matte selects nothing or everything. Lengths are scaled
 * by `scale`.
 */
export function findSpill(
  alpha: Float32Array,
  oklabIn: (box: PixelBox) => Pick<OklabPlanes, 'a' | 'b'>,
  width: number,
  height: number,
  spill: Spill,
  scale: number,
): SpillMap | undefined {
  // only the neighbourhood of the matte can hold spill or show what its surroundings are
  const selected = boundsOfMatte(alpha, width, height, UNDER_HALF);
  if (!selected) return undefined;
  const box = boxAround(selected, Math.ceil(spill.reachPx * scale * 2), width, height);
  const [w, h] = [box.x1 - box.x0, box.y1 - box.y0];
  const isWhole = isWholeBox(box, width, height);
  const part = spillWithin(isWhole ? alpha : cutOut(alpha, width, box), oklabIn(box), w, h, spill, scale);
  if (!part) return undefined;
  const whole = (plane: Float32Array) => {
    if (isWhole) return plane;
    const out = new Float32Array(width * height);
    putBack(out, width, plane, box);
    return out;
  };
  const share = whole(part.share);
  if (spill.within) {
    const cover = new Float32Array(width * height);
    shapeMatteInto(cover, width, height, spill.within, scale);
    for (let i = 0; i < share.length; i++) share[i] = share[i]! * cover[i]!;
  }
  return {
    share,
    pieceA: whole(part.pieceA),
    pieceB: whole(part.pieceB),
    surroundA: whole(part.surroundA),
    surroundB: whole(part.surroundB),
  };
}
