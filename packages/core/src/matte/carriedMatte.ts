// A matte of another frame, as it lies on this one.
import { kernels, SAMPLES, type Kernels } from '../kernels/module.ts';
import { placeAfter, type PieceMotion } from '../track/pieceMotion.ts';
import { bilinear } from './bilinear.ts';
import { extentOf, isSelectedIn, type Extent } from './extent.ts';

/** Side of the squares over which the motion is read once at each corner and taken as bilinear between. */
const CELL = 8;
/** What a square reads: samples of which none is selected, all 0; or well inside the picture; or it may lie off it. */
const [NOTHING, INSIDE, ANYWHERE] = [0, 1, 2];

/** Where the corners of all squares lie on the other frame, row by row. */
interface Grid {
  across: number;
  down: number;
  x: Float32Array;
  y: Float32Array;
}
/** A row of pixels through the squares that it crosses: what each reads, and the places on either side of it. */
interface Row {
  y: number;
  kinds: Uint8Array;
  placesX: Float32Array;
  placesY: Float32Array;
}
type ReadRow = (out: Float32Array, row: Row) => void;

/** α of another frame, as it lies on this one; −1 where it lies off the picture. */
export function carriedMatte(motion: PieceMotion, alpha: Float32Array, width: number, height: number): Float32Array {
  const own = kernels();
  return carriedBy(motion, alpha, width, height, own ? rowByKernel(own, alpha, width, height) : undefined);
}
/** The same by other means of reading a row: sample by sample if not said. */
export function carriedBy(
  motion: PieceMotion,
  alpha: Float32Array,
  width: number,
  height: number,
  readRow: ReadRow = rowBySamples(alpha, width, height),
): Float32Array {
  const grid = gridOf(motion, width, height);
  const out = new Float32Array(width * height);
  const extent = extentOf(alpha, width, height);
  const { across } = grid;
  const places = () => new Float32Array(across);
  const row = { y: 0, kinds: new Uint8Array(across), placesX: places(), placesY: places() };
  let isRead = false;
  for (let y = 0; y < height; y++) {
    if (y % CELL === 0) isRead = kindsInto(row.kinds, grid, y / CELL, extent, width, height);
    if (!isRead) continue;
    row.y = y;
    placesInto(row, grid);
    readRow(out, row);
  }
  return out;
}

function gridOf(motion: PieceMotion, width: number, height: number): Grid {
  const [across, down] = [Math.ceil(width / CELL) + 1, Math.ceil(height / CELL) + 1];
  const grid = { across, down, x: new Float32Array(across * down), y: new Float32Array(across * down) };
  for (let j = 0; j < down; j++)
    for (let i = 0; i < across; i++) {
      const [x, y] = placeAfter(motion, i * CELL, j * CELL);
      grid.x[j * across + i] = x;
      grid.y[j * across + i] = y;
    }
  return grid;
}
/** The places that a row of pixels reads, between those of the corners above and below it. */
function placesInto({ y, placesX, placesY }: Row, grid: Grid): void {
  const { across } = grid;
  const j = Math.floor(y / CELL);
  const fy = (y + 0.5) / CELL - j;
  for (let i = 0; i < across; i++) {
    const k = j * across + i;
    placesX[i] = (1 - fy) * grid.x[k]! + fy * grid.x[k + across]!;
    placesY[i] = (1 - fy) * grid.y[k]! + fy * grid.y[k + across]!;
  }
}

/** Samples beside a place that reading it takes in, and what rounding may move it by. */
const BESIDE = 2;
/** What the squares of a row of them read; false where that is nothing but 0. */
function kindsInto(
  kinds: Uint8Array,
  { across, x, y }: Grid,
  j: number,
  extent: Extent,
  width: number,
  height: number,
): boolean {
  let isRead = false;
  for (let i = 0; i < across - 1; i++) {
    const k = j * across + i;
    const below = k + across;
    const left = Math.min(x[k]!, x[k + 1]!, x[below]!, x[below + 1]!) - BESIDE;
    const right = Math.max(x[k]!, x[k + 1]!, x[below]!, x[below + 1]!) + BESIDE;
    const top = Math.min(y[k]!, y[k + 1]!, y[below]!, y[below + 1]!) - BESIDE;
    const bottom = Math.max(y[k]!, y[k + 1]!, y[below]!, y[below + 1]!) + BESIDE;
    if (!(left > 0 && top > 0 && right < width && bottom < height)) kinds[i] = ANYWHERE;
    else kinds[i] = isSelectedIn(extent, width, left, top, right, bottom) ? INSIDE : NOTHING;
    if (kinds[i] !== NOTHING) isRead = true;
  }
  return isRead;
}

const rowBySamples =
  (alpha: Float32Array, width: number, height: number): ReadRow =>
  (out, { y, kinds, placesX, placesY }) => {
    for (let i = 0; i < kinds.length - 1; i++) {
      if (kinds[i] === NOTHING) continue;
      const isInside = kinds[i] === INSIDE;
      const end = Math.min((i + 1) * CELL, width);
      for (let x = i * CELL; x < end; x++) {
        const fx = (x + 0.5) / CELL - i;
        const fromX = (1 - fx) * placesX[i]! + fx * placesX[i + 1]! - 0.5;
        const fromY = (1 - fx) * placesY[i]! + fx * placesY[i + 1]! - 0.5;
        out[y * width + x] = isInside ? bilinear(alpha, width, fromX, fromY) : read(alpha, width, height, fromX, fromY);
      }
    }
  };
function read(alpha: Float32Array, width: number, height: number, x: number, y: number): number {
  if (!(x > -0.5 && y > -0.5 && x < width - 0.5 && y < height - 0.5)) return -1;
  // half a pixel beyond the outer samples' centres still belongs to the picture
  return bilinear(
    alpha,
    width,
    Math.min(Math.max(x, 0), width - 1 - 1e-6),
    Math.min(Math.max(y, 0), height - 1 - 1e-6),
  );
}

/** The matte lies in the kernels' memory, and behind it what a row needs. */
function rowByKernel(own: Kernels, alpha: Float32Array, width: number, height: number): ReadRow {
  const across = Math.ceil(width / CELL) + 1;
  const kindsAt = SAMPLES + 4 * width * height;
  const [xAt, yAt] = [kindsAt + 4 * across, kindsAt + 8 * across];
  const outAt = yAt + 4 * across;
  const memory = own.samples(outAt + 4 * width);
  memory.set(alpha, SAMPLES / 4);
  const bytes = new Uint8Array(memory.buffer);
  return (out, { y, kinds, placesX, placesY }) => {
    memory.fill(0, outAt / 4, outAt / 4 + width);
    bytes.set(kinds, kindsAt);
    memory.set(placesX, xAt / 4);
    memory.set(placesY, yAt / 4);
    own.carryRow(kinds.length - 1, kindsAt, xAt, yAt, SAMPLES, width, height, outAt);
    out.set(memory.subarray(outAt / 4, outAt / 4 + width), y * width);
  };
}
