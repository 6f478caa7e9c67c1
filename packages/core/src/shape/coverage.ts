import { KeptNumbers } from './keptNumbers.ts';
import type { Polygon } from './path.ts';

const edges = new KeptNumbers(0);

/**
 * Exact area coverage of a polygon on a pixel grid, 0..1, written to `out` (`width × height`, row by row).
 *
 * Each edge adds, to every pixel of its rows, the signed area between it and the pixel's right side; a running sum
 * along the row then gives the winding-weighted coverage (the accumulation buffer of scan converters; e.g. D. Cohen,
 * R. Levien, font-rs). Overlaps of one direction count once; opposite ones cancel. Corners may lie anywhere.
 */
export function coverageInto(out: Float32Array, width: number, height: number, polygon: Polygon): void {
  const stride = width + 2;
  const cells = edges.of(stride * height);
  const n = polygon.length / 2;
  for (let i = 0; i < n; i++) {
    const j = (i + 1) % n;
    addEdge(cells, stride, width, height, polygon[2 * i]!, polygon[2 * i + 1]!, polygon[2 * j]!, polygon[2 * j + 1]!);
  }
  for (let y = 0; y < height; y++) {
    let sum = 0;
    let covered = 0;
    for (let x = 0; x < width; x++) {
      const cell = cells[y * stride + x]!;
      if (cell !== 0) {
        sum += cell;
        // rounding leaves ±1e-15 where nothing is: that must be exactly 0
        const area = Math.abs(sum);
        covered = area < 1e-9 ? 0 : Math.min(area, 1);
      }
      out[y * width + x] = covered;
    }
  }
  cells.fill(0, 0, stride * height);
}

function addEdge(
  cells: Float64Array,
  stride: number,
  width: number,
  height: number,
  x0: number,
  y0: number,
  x1: number,
  y1: number,
): void {
  if (y0 === y1) return;
  const direction = y0 < y1 ? 1 : -1;
  if (direction < 0) {
    [x0, x1] = [x1, x0];
    [y0, y1] = [y1, y0];
  }
  const slope = (x1 - x0) / (y1 - y0);
  const firstRow = Math.max(Math.floor(y0), 0);
  const lastRow = Math.min(Math.ceil(y1), height);
  for (let row = firstRow; row < lastRow; row++) {
    const top = Math.max(row, y0);
    const bottom = Math.min(row + 1, y1);
    const xTop = x0 + (top - y0) * slope;
    const xBottom = x0 + (bottom - y0) * slope;
    addRowPiece(
      cells,
      row * stride,
      width,
      direction * (bottom - top),
      Math.min(xTop, xBottom),
      Math.max(xTop, xBottom),
    );
  }
}

/** An edge piece within one row: `cover` of the row's height (signed), spread evenly over xLeft..xRight. */
function addRowPiece(
  cells: Float64Array,
  start: number,
  width: number,
  cover: number,
  xLeft: number,
  xRight: number,
): void {
  if (xRight <= 0) {
    cells[start]! += cover;
    return;
  }
  if (xLeft >= width) return;
  if (xRight - xLeft < 1e-12) {
    spreadAt(cells, start, width, cover, xLeft);
    return;
  }
  const perPixel = cover / (xRight - xLeft);
  if (xLeft < 0) {
    cells[start]! += perPixel * -xLeft;
    xLeft = 0;
  }
  const end = Math.min(xRight, width);
  for (let x = xLeft; x < end;) {
    const next = Math.min(Math.floor(x) + 1, end);
    spreadAt(cells, start, width, perPixel * (next - x), (x + next) / 2);
    x = next;
  }
}

/**
 * Cover of an edge whose mean position in its pixel is `x`: part of it falls to this pixel, the rest to those right of
 * it.
 */
function spreadAt(cells: Float64Array, start: number, width: number, cover: number, x: number): void {
  const column = Math.min(Math.max(Math.floor(x), 0), width);
  const share = Math.min(Math.max(column + 1 - x, 0), 1);
  cells[start + column]! += cover * share;
  cells[start + column + 1]! += cover * (1 - share);
}
