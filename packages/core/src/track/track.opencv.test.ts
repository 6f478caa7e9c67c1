// The pyramid against OpenCV 4.12 (JavaScript build), on a smooth random picture.
import { createRequire } from 'node:module';
import type OpenCv from '@techstark/opencv-js';
import { beforeAll, expect, it } from 'vitest';
import { pyramidOf, smoothed } from './pyramid.ts';
import { seededRandom } from './random.ts';

const [W, H] = [160, 120];
const random = seededRandom(5);
const waves = Array.from({ length: 24 }, () => ({ fx: (random() - 0.5) * 0.9, fy: (random() - 0.5) * 0.9, phase: random() * 6.3 }));
/** A sum of random waves. */
const picture = (): Float32Array =>
  Float32Array.from({ length: W * H }, (_, i) => 0.5 + waves.reduce((s, w) => s + Math.sin(w.fx * (i % W) + w.fy * Math.floor(i / W) + w.phase), 0) / 60);
// a thenable that never settles: neither awaited nor imported; it calls back when its WebAssembly is up
const cv = createRequire(import.meta.url)('@techstark/opencv-js') as typeof OpenCv & { onRuntimeInitialized?: () => void };
beforeAll(() => new Promise<void>((resolve) => {
  if (cv.Mat) resolve();
  else cv.onRuntimeInitialized = resolve;
}), 60_000);

it('halves as pyrDown does and smooths as a 3 × 3 Gaussian, to 1e-5 away from the rim', () => {
  const source = cv.matFromArray(H, W, cv.CV_32FC1, [...picture()]);
  const ground = new cv.Mat();
  cv.GaussianBlur(source, ground, new cv.Size(3, 3), 0);
  const half = new cv.Mat();
  cv.pyrDown(ground, half);
  const ours = pyramidOf(picture(), W, H, 2);
  const differences = (a: Float32Array, b: Float32Array, w: number, h: number) => Math.max(...Array.from({ length: (w - 6) * (h - 6) }, (_, k) => { const i = (3 + Math.floor(k / (w - 6))) * w + 3 + (k % (w - 6)); return Math.abs(a[i]! - b[i]!); }));
  expect(differences(smoothed(picture(), W, H), ground.data32F, W, H)).toBeLessThan(1e-5);
  expect([ours[1]!.width, ours[1]!.height]).toEqual([half.cols, half.rows]);
  expect(differences(ours[1]!.luma, half.data32F, W / 2, H / 2)).toBeLessThan(1e-5);
  for (const m of [source, ground, half]) m.delete();
});
