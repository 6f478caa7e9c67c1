import { inverted, project, type Homography } from '../track/homography.ts';
import type { Mask } from '../track/planeTracker.ts';
import { pyramidOf, type Pyramid } from '../track/pyramid.ts';
import { seededRandom } from '../track/random.ts';

/** Luma, about 0.5, as a function of the place in pixels. */
export type Look = (x: number, y: number) => number;

/** Smooth random texture: 60 waves of 6 to 36 pixels, luma 0..1. */
export function texture(seed: number): Look {
  const random = seededRandom(seed);
  const waves = Array.from({ length: 60 }, () => {
    const [angle, length, phase] = [random() * Math.PI * 2, 6 + random() * 30, random() * 7];
    return [(2 * Math.PI * Math.cos(angle)) / length, (2 * Math.PI * Math.sin(angle)) / length, phase] as const;
  });
  return (x, y) => 0.5 + 0.025 * waves.reduce((sum, [u, v, p]) => sum + Math.sin(u * x + v * y + p), 0);
}
/** A look's picture, read at pixel centres. */
export const pictureOf = (look: Look, width: number, height: number): Float32Array =>
  Float32Array.from({ length: width * height }, (_, i) => look((i % width) + 0.5, Math.floor(i / width) + 0.5));
export const pyramidOfLook = (look: Look, width: number, height: number): Pyramid =>
  pyramidOf(pictureOf(look, width, height), width, height);
/** A look after a motion: what lay at p lies at h(p). */
export function after(h: Homography, look: Look): Look {
  const back = inverted(h);
  return (x, y) => look(...project(back, x, y));
}
/** The pixels of a box. */
export const boxMask = (width: number, height: number, x0: number, y0: number, x1: number, y1: number): Mask => ({
  width,
  height,
  inside: Uint8Array.from({ length: width * height }, (_, i) => {
    const [x, y] = [i % width, Math.floor(i / width)];
    return x >= x0 && x < x1 && y >= y0 && y < y1 ? 1 : 0;
  }),
});
