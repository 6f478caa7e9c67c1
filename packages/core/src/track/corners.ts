import type { Level } from './pyramid.ts';

interface Box {
  x0: number;
  y0: number;
  x1: number;
  y1: number;
}
/** Half size of the window the structure tensor is summed over, pixels. */
const WINDOW = 3;

/**
 * The points in a box that can best be followed: largest smaller eigenvalue of the structure tensor (Shi & Tomasi,
 * "Good Features to Track", 1994), at least `spacing` pixels apart, strongest first. `allowed` says where a point may
 * lie. Coordinates are pixel centres (+0.5), x, y, x, y …
 */
export function cornersIn(
  { width, height, luma }: Level,
  box: Box,
  allowed: (x: number, y: number) => boolean,
  most: number,
  spacing: number,
): Float64Array {
  const margin = WINDOW + 2;
  const [x0, y0] = [Math.max(Math.floor(box.x0), margin), Math.max(Math.floor(box.y0), margin)];
  const [x1, y1] = [Math.min(Math.ceil(box.x1), width - margin), Math.min(Math.ceil(box.y1), height - margin)];
  const [w, h] = [x1 - x0, y1 - y0];
  if (w < 3 || h < 3) return new Float64Array(0);
  const [W, H] = [w + 2 * WINDOW, h + 2 * WINDOW];
  const [xx, xy, yy] = [new Float32Array(W * H), new Float32Array(W * H), new Float32Array(W * H)];
  for (let y = 0; y < H; y++)
    for (let x = 0; x < W; x++) {
      const i = (y + y0 - WINDOW) * width + x + x0 - WINDOW;
      const [gx, gy] = [(luma[i + 1]! - luma[i - 1]!) / 2, (luma[i + width]! - luma[i - width]!) / 2];
      const o = y * W + x;
      xx[o] = gx * gx;
      xy[o] = gx * gy;
      yy[o] = gy * gy;
    }
  const [a, b, c] = [boxSum(xx, W, H), boxSum(xy, W, H), boxSum(yy, W, H)];
  const score = new Float32Array(w * h);
  let top = 0;
  for (let i = 0; i < score.length; i++) {
    const half = (a[i]! - c[i]!) / 2;
    score[i] = (a[i]! + c[i]!) / 2 - Math.sqrt(half * half + b[i]! * b[i]!);
    if (score[i]! > top) top = score[i]!;
  }
  const found: number[] = [];
  for (let y = 1; y < h - 1; y++)
    for (let x = 1; x < w - 1; x++) {
      const i = y * w + x;
      const s = score[i]!;
      if (s < top * 0.002 || s < score[i - 1]! || s <= score[i + 1]! || s < score[i - w]! || s <= score[i + w]!)
        continue;
      if (allowed(x + x0 + 0.5, y + y0 + 0.5)) found.push(i);
    }
  found.sort((p, q) => score[q]! - score[p]!);
  // a grid of cells as wide as the spacing keeps the search for neighbours short
  const [across, down] = [Math.ceil(w / spacing), Math.ceil(h / spacing)];
  const cells: number[][] = Array.from({ length: across * down }, () => []);
  const out: number[] = [];
  for (const i of found) {
    if (out.length >= 2 * most) break;
    const [x, y] = [i % w, Math.floor(i / w)];
    const [cx, cy] = [Math.floor(x / spacing), Math.floor(y / spacing)];
    let free = true;
    for (let v = Math.max(cy - 1, 0); free && v <= Math.min(cy + 1, down - 1); v++)
      for (let u = Math.max(cx - 1, 0); free && u <= Math.min(cx + 1, across - 1); u++)
        free = cells[v * across + u]!.every(
          (j) => ((j % w) - x) ** 2 + (Math.floor(j / w) - y) ** 2 >= spacing * spacing,
        );
    if (!free) continue;
    cells[cy * across + cx]!.push(i);
    out.push(x + x0 + 0.5, y + y0 + 0.5);
  }
  return Float64Array.from(out);
}

/** Sums over (2·WINDOW + 1)² windows by running sums; the result is smaller by WINDOW on every side. */
function boxSum(plane: Float32Array, width: number, height: number): Float32Array {
  const [w, h, n] = [width - 2 * WINDOW, height - 2 * WINDOW, 2 * WINDOW + 1];
  const across = new Float32Array(w * height);
  for (let y = 0; y < height; y++) {
    let sum = 0;
    for (let x = 0; x < n; x++) sum += plane[y * width + x]!;
    for (let x = 0; x < w; x++) {
      across[y * w + x] = sum;
      if (x + n < width) sum += plane[y * width + x + n]! - plane[y * width + x]!;
    }
  }
  const out = new Float32Array(w * h);
  const sums = new Float64Array(w);
  for (let y = 0; y < height; y++) {
    const gone = (y - n) * w;
    for (let x = 0; x < w; x++) sums[x] = sums[x]! + across[y * w + x]! - (y >= n ? across[gone + x]! : 0);
    if (y >= n - 1) out.set(sums, (y - n + 1) * w);
  }
  return out;
}
