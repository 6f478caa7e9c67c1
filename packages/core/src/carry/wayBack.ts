import type { PixelBox } from '../matte/bounds.ts';
import { placeAfter, type PieceMotion } from '../track/pieceMotion.ts';

/** Nodes, so far apart, at which a way back is read once; between them it is bilinear. */
const CELL = 8;
/** For each place of a frame, where it lay on another: nodes over a box of the frame. */
export interface WayBack {
  box: PixelBox;
  across: number;
  x: Float32Array;
  y: Float32Array;
}
export function wayBack(motion: PieceMotion, box: PixelBox): WayBack {
  const across = Math.ceil((box.x1 - box.x0) / CELL) + 2;
  const down = Math.ceil((box.y1 - box.y0) / CELL) + 2;
  const [px, py] = [new Float32Array(across * down), new Float32Array(across * down)];
  for (let j = 0; j < down; j++)
    for (let i = 0; i < across; i++) {
      const [x, y] = placeAfter(motion, box.x0 + i * CELL, box.y0 + j * CELL);
      px[j * across + i] = x;
      py[j * across + i] = y;
    }
  return { box, across, x: px, y: py };
}
/**
 * Planes of a frame read where a box's pixels come from, bilinear; what lies off the picture has the plane's value of
 * `off`.
 */
export function readAlong(
  planes: readonly Float32Array[],
  off: readonly number[],
  way: WayBack,
  width: number,
  height: number,
): Float32Array[] {
  const { x0, y0, x1, y1 } = way.box;
  const w = x1 - x0;
  const out = planes.map(() => new Float32Array(w * (y1 - y0)));
  const [xs, ys] = [new Float32Array(w), new Float32Array(w)];
  const index = new Int32Array(w);
  const [fxs, fys] = [new Float32Array(w), new Float32Array(w)];
  for (let row = 0; row < y1 - y0; row++) {
    placesOfRow(xs, ys, way, row);
    for (let k = 0; k < w; k++) {
      const px = xs[k]!;
      const py = ys[k]!;
      index[k] = -1;
      if (!(px >= 0 && py >= 0 && px < width && py < height)) continue;
      const u = Math.min(Math.max(px - 0.5, 0), width - 1.001);
      const v = Math.min(Math.max(py - 0.5, 0), height - 1.001);
      index[k] = (v | 0) * width + (u | 0);
      fxs[k] = u - (u | 0);
      fys[k] = v - (v | 0);
    }
    for (let p = 0; p < planes.length; p++) readRow(out[p]!, row * w, planes[p]!, off[p]!, index, fxs, fys, width);
  }
  return out;
}
/** One row of one plane: `index` is the upper left of the four samples, or −1. */
function readRow(
  out: Float32Array,
  from: number,
  plane: Float32Array,
  off: number,
  index: Int32Array,
  fxs: Float32Array,
  fys: Float32Array,
  width: number,
): void {
  for (let k = 0; k < index.length; k++) {
    const j = index[k]!;
    if (j < 0) {
      out[from + k] = off;
      continue;
    }
    const fx = fxs[k]!;
    const fy = fys[k]!;
    const top = (1 - fx) * plane[j]! + fx * plane[j + 1]!;
    out[from + k] = (1 - fy) * top + fy * ((1 - fx) * plane[j + width]! + fx * plane[j + width + 1]!);
  }
}

/** The places (pixel coordinates) that the centres of a row of the box come from: row 0 is the box's first. */
function placesOfRow(xs: Float32Array, ys: Float32Array, way: WayBack, row: number): void {
  const { across, x: px, y: py } = way;
  const v = (row + 0.5) / CELL;
  const j = Math.floor(v);
  const fy = v - j;
  const top = j * across;
  for (let o = 0; o < xs.length; o++) {
    const u = (o + 0.5) / CELL;
    const i = u | 0;
    const fx = u - i;
    const k = top + i;
    const w00 = (1 - fx) * (1 - fy);
    const w10 = fx * (1 - fy);
    const w01 = (1 - fx) * fy;
    const w11 = fx * fy;
    xs[o] = w00 * px[k]! + w10 * px[k + 1]! + w01 * px[k + across]! + w11 * px[k + across + 1]!;
    ys[o] = w00 * py[k]! + w10 * py[k + 1]! + w01 * py[k + across]! + w11 * py[k + across + 1]!;
  }
}
