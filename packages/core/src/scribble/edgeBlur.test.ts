import { describe, expect, it } from 'vitest';
import { gaussianInPlace } from '../matte/gaussian.ts';
import { seededRandom } from '../track/random.ts';
import { edgeBlur } from './edgeBlur.ts';

const [W, H] = [240, 200];
/** A wavy disc, antialiased, then blurred: α. */
function disc(sigma: number): Float32Array {
  const alpha = new Float32Array(W * H);
  for (let y = 0; y < H; y++)
    for (let x = 0; x < W; x++) {
      const [u, v] = [x - 120, y - 100];
      const rim = 60 + 6 * Math.sin(5 * Math.atan2(v, u));
      alpha[y * W + x] = Math.min(Math.max(rim - Math.hypot(u, v) + 0.5, 0), 1);
    }
  if (sigma > 0) gaussianInPlace(alpha, W, H, sigma);
  return alpha;
}
/** Blotches of a few samples, −1..1. */
function blotches(seed: number): Float32Array {
  const random = seededRandom(seed);
  const plane = Float32Array.from({ length: W * H }, () => random() - 0.5);
  gaussianInPlace(plane, W, H, 3);
  const most = plane.reduce((m, v) => Math.max(m, Math.abs(v)), 0);
  return plane.map((v) => v / most);
}
/** One ground over another, each with blotches of its own, with grain over all. */
function picture(alpha: Float32Array, contrast: number, texture: number) {
  const random = seededRandom(3);
  const [front, back] = [blotches(1), blotches(2)];
  const mix = (i: number, inside: number, outside: number) => alpha[i]! * inside + (1 - alpha[i]!) * outside;
  const plane = (of: (i: number) => number) => Float32Array.from({ length: W * H }, (_, i) => of(i));
  return {
    L: plane((i) => mix(i, 0.5 + texture * front[i]!, 0.5 + texture * back[i]!) + 0.01 * (random() - 0.5)),
    a: plane((i) => mix(i, contrast, 0) + 0.01 * (random() - 0.5)),
    b: plane((i) => mix(i, -contrast, 0) + 0.01 * (random() - 0.5)),
  };
}
const found = (sigma: number, contrast = 0.08, texture = 0.06): number | undefined => {
  const alpha = disc(sigma);
  return edgeBlur(
    Float32Array.from(alpha, (v) => (v >= 0.5 ? 1 : 0)),
    picture(alpha, contrast, texture),
    W,
    H,
  );
};

describe('how blurred a picture is along an outline', () => {
  it.each([1, 2, 3, 4, 5])('finds σ %d to a quarter of it, through blotches and grain', (sigma) => {
    expect(Math.abs(found(sigma)! - sigma)).toBeLessThanOrEqual(0.25 * sigma);
  });
  it('finds a sharp edge sharp', () => expect(found(0)!).toBeLessThanOrEqual(0.75));
  it('is not misled by an outline that lies a sample and a half beside', () => {
    const alpha = disc(2.5);
    const mask = Float32Array.from(disc(0), (_, i) => (alpha[i - 1]! + alpha[i - 2]! >= 1 ? 1 : 0));
    expect(Math.abs(edgeBlur(mask, picture(alpha, 0.08, 0.06), W, H)! - 2.5)).toBeLessThanOrEqual(0.6);
  });
  it('says nothing where both sides are of one colour', () => expect(found(2, 0.01, 0)).toBeUndefined());
  it('says nothing where each side differs more within itself, in what tells them apart', () => {
    const alpha = disc(2);
    const mask = Float32Array.from(alpha, (v) => (v >= 0.5 ? 1 : 0));
    const { L, a, b } = picture(alpha, 0.05, 0.4);
    // blotches of lightness do no harm where sides differ in hue
    expect(edgeBlur(mask, { L, a, b }, W, H)).toBe(2);
    const mottled = blotches(7);
    const strewn = (plane: Float32Array, sign: number) => plane.map((v, i) => v + sign * mottled[i]!);
    expect(edgeBlur(mask, { L, a: strewn(a, 1), b: strewn(b, -1) }, W, H)).toBeUndefined();
  });
  it('says nothing of a selection that has no outline', () => {
    const flat = new Float32Array(W * H);
    expect(edgeBlur(flat, picture(flat, 0.08, 0.06), W, H)).toBeUndefined();
    expect(edgeBlur(flat.fill(1), picture(flat, 0.08, 0.06), W, H)).toBeUndefined();
  });
});
