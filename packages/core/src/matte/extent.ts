import { boundsOfFinished, NOWHERE, type PixelBox } from './bounds.ts';
import { behindZeros, pairsOf } from './pairs.ts';

/** What a matte is asked for on every frame near its own, found once. */
export interface Extent {
  /** Outside of it nothing is selected. */
  support: PixelBox | undefined;
  /** Pixels of which at least half is selected. */
  area: number;
  /** Of each tile, row by row, whether anything in it is selected. */
  tiles: Uint8Array;
}
/** Side of a tile, pixels. */
const TILE = 8;
const extents = new WeakMap<Float32Array, Extent>();
export function extentOf(alpha: Float32Array, width: number, height: number): Extent {
  const known = extents.get(alpha);
  if (known) return known;
  const support = boundsOfFinished(alpha, width, height);
  const { x0, y0, x1, y1 } = support ?? NOWHERE;
  let area = 0;
  for (let y = y0; y < y1; y++) for (let i = y * width + x0; i < y * width + x1; i++) if (alpha[i]! >= 0.5) area++;
  const found = { support, area, tiles: tilesOf(alpha, width, height) };
  extents.set(alpha, found);
  return found;
}
function tilesOf(alpha: Float32Array, width: number, height: number): Uint8Array {
  const across = Math.ceil(width / TILE);
  const tiles = new Uint8Array(across * Math.ceil(height / TILE));
  const pairs = pairsOf(alpha);
  for (let y = 0; y < height; y++) {
    const row = Math.floor(y / TILE) * across;
    const end = (y + 1) * width;
    for (let i = y * width; i < end; i++) {
      i = behindZeros(pairs, i, end);
      if (i < end && alpha[i] !== 0) tiles[row + ((i - y * width) >> 3)] = 1;
    }
  }
  return tiles;
}
/** Is anything selected in the tiles that hold a stretch of the picture, ends included? */
export function isSelectedIn(
  { tiles }: Extent,
  width: number,
  left: number,
  top: number,
  right: number,
  bottom: number,
): boolean {
  const across = Math.ceil(width / TILE);
  for (let row = Math.floor(top / TILE); row <= Math.floor(bottom / TILE); row++)
    for (let k = Math.floor(left / TILE); k <= Math.floor(right / TILE); k++)
      if (tiles[row * across + k] === 1) return true;
  return false;
}
