import type { PixelBox } from '../matte/bounds.ts';
import { project, type Homography } from '../track/homography.ts';
import type { Level, Pyramid } from '../track/pyramid.ts';

/** How far from the guess is looked, ground pixels, beside the thing's own size. */
const REACH = 48;
/** At the size where the search is exhaustive the thing is about so many samples large. */
const COARSE_SIZE = 14;
/** Nothing is believed whose correlation with what it was is lower. */
const LEAST_CORRELATION = 0.6;

/**
 * Where what a mask holds lies on another frame, as a shift alone: the one at which both pictures correlate best over
 * the mask (zero-mean normalised cross-correlation), searched in full at a small size about a guess and about staying
 * where it is, then refined sample by sample down to the ground. Undefined where nothing correlates.
 */
export function bestShift(
  from: Pyramid,
  to: Pyramid,
  mask: Float32Array,
  box: PixelBox,
  guess: Homography,
): Homography | undefined {
  const size = Math.max(box.x1 - box.x0, box.y1 - box.y0);
  const top = Math.min(Math.max(Math.floor(Math.log2(size / COARSE_SIZE)), 0), from.length - 1);
  const ground = from[0]!;
  const [cx, cy] = [(box.x0 + box.x1) / 2, (box.y0 + box.y1) / 2];
  const [gx, gy] = project(guess, cx, cy);
  const s = 1 / (1 << top);
  const reach = Math.ceil((REACH + Math.min(size / 2, 60)) * s);
  let best = { dx: 0, dy: 0, value: -1 };
  const level = patchOf(ground, from[top]!, mask, box, top);
  const starts: [number, number][] = [
    [0, 0],
    [Math.round((gx - cx) * s), Math.round((gy - cy) * s)],
  ];
  for (const [sx, sy] of starts)
    for (let dy = sy - reach; dy <= sy + reach; dy++)
      for (let dx = sx - reach; dx <= sx + reach; dx++) {
        const value = correlation(level, to[top]!, dx, dy);
        if (value > best.value) best = { dx, dy, value };
      }
  for (let k = top - 1; k >= 0; k--) {
    const finer = patchOf(ground, from[k]!, mask, box, k);
    const about = { dx: best.dx * 2, dy: best.dy * 2 };
    best = { ...about, value: -1 };
    for (let dy = about.dy - 2; dy <= about.dy + 2; dy++)
      for (let dx = about.dx - 2; dx <= about.dx + 2; dx++) {
        const value = correlation(finer, to[k]!, dx, dy);
        if (value > best.value) best = { dx, dy, value };
      }
  }
  return best.value < LEAST_CORRELATION ? undefined : [1, 0, best.dx, 0, 1, best.dy, 0, 0, 1];
}

interface Patch {
  xs: Int32Array;
  ys: Int32Array;
  values: Float32Array;
}
/** The samples of a level that a mask of the ground level holds, with a rim about them: an outline is seen there. */
function patchOf(ground: Level, level: Level, mask: Float32Array, box: PixelBox, k: number): Patch {
  const step = 1 << k;
  const [xs, ys, values]: [number[], number[], number[]] = [[], [], []];
  const [x0, y0] = [Math.max((box.x0 >> k) - 1, 0), Math.max((box.y0 >> k) - 1, 0)];
  const [x1, y1] = [Math.min((box.x1 >> k) + 1, level.width - 1), Math.min((box.y1 >> k) + 1, level.height - 1)];
  const held = (x: number, y: number) => {
    const u = x * step + (step >> 1);
    const v = y * step + (step >> 1);
    return u >= 0 && v >= 0 && u < ground.width && v < ground.height && mask[v * ground.width + u]! >= 0.5;
  };
  for (let y = y0; y <= y1; y++)
    for (let x = x0; x <= x1; x++)
      if (held(x, y) || held(x - 1, y) || held(x + 1, y) || held(x, y - 1) || held(x, y + 1)) {
        xs.push(x);
        ys.push(y);
        values.push(level.luma[y * level.width + x]!);
      }
  return { xs: Int32Array.from(xs), ys: Int32Array.from(ys), values: Float32Array.from(values) };
}
/** Zero-mean normalised cross-correlation of a patch with a level, shifted by samples; −1 where most is off it. */
function correlation({ xs, ys, values }: Patch, { width, height, luma }: Level, dx: number, dy: number): number {
  let [n, a, b, aa, bb, ab] = [0, 0, 0, 0, 0, 0];
  for (let i = 0; i < values.length; i++) {
    const x = xs[i]! + dx;
    const y = ys[i]! + dy;
    if (x < 0 || y < 0 || x >= width || y >= height) continue;
    const p = values[i]!;
    const q = luma[y * width + x]!;
    n++;
    a += p;
    b += q;
    aa += p * p;
    bb += q * q;
    ab += p * q;
  }
  if (n < 6 || n < values.length / 2) return -1;
  const va = aa - (a * a) / n;
  const vb = bb - (b * b) / n;
  return va <= 1e-9 || vb <= 1e-9 ? -1 : (ab - (a * b) / n) / Math.sqrt(va * vb);
}
