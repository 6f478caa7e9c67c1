// Mattes set right by the picture, where the true share of every pixel is known.
import { describe, expect, it } from 'vitest';
import { seededRandom } from '../testing/mattes.ts';
import { softenInPlace } from './cleanUp.ts';
import { correctedMatte } from './corrected.ts';

const [W, H] = [90, 70];
const disc = (radius: number, cx = 45) => {
  const alpha = Float32Array.from({ length: W * H }, (_, i) =>
    Math.hypot((i % W) + 0.5 - cx, Math.floor(i / W) + 0.5 - 35) < radius ? 1 : 0,
  );
  softenInPlace(alpha, W, H, 1, 0);
  return alpha;
};
type Rgb = readonly [number, number, number];
function picture(alpha: Float32Array, piece: Rgb, ground: Rgb, grain = 0.004) {
  const random = seededRandom(2);
  const plane = (c: 0 | 1 | 2) =>
    alpha.map((a) => Math.max(a * piece[c] + (1 - a) * ground[c] + grain * (random() - 0.5), 0));
  return { r: plane(0), g: plane(1), b: plane(2) };
}
const TEAL: Rgb = [0.05, 0.25, 0.24];
const OAK: Rgb = [0.45, 0.33, 0.2];
const truth = disc(20);
const off = (alpha: Float32Array) => alpha.reduce((s, a, i) => s + Math.abs(a - truth[i]!), 0);
const corrected = (alpha: Float32Array, trust: number, planes = picture(truth, TEAL, OAK)) =>
  correctedMatte(planes, alpha, W, H, trust, 1);

describe('a matte set right by the picture', () => {
  it.each([
    ['too large', disc(21)],
    ['too small', disc(19)],
    ['aside', disc(20, 46)],
  ])('that is a pixel %s comes within a third of its error', (_, wrong) => {
    expect(off(corrected(wrong, 0.2)) / off(wrong)).toBeLessThan(1 / 3);
    // a matte that is trusted more is changed less
    expect(off(corrected(wrong, 0.02))).toBeGreaterThan(off(corrected(wrong, 0.2)));
  });
  it('that is right stays so, to a hundredth', () => {
    const out = corrected(truth, 0.1);
    out.forEach((a, i) => expect(Math.abs(a - truth[i]!)).toBeLessThan(0.03));
    expect(off(out) / truth.reduce((s, a) => s + a, 0)).toBeLessThan(0.01);
  });
  it('stays as it is where piece and ground look alike, and with no trust in the picture at all', () => {
    const alike = picture(truth, TEAL, [0.055, 0.25, 0.24]);
    const wrong = disc(21);
    const out = corrected(wrong, 0.2, alike);
    expect(Math.max(...out.map((a, i) => Math.abs(a - wrong[i]!)))).toBeLessThan(0.05);
    expect(correctedMatte(alike, wrong, W, H, 0, 1)).toBe(wrong);
  });
  it('does not take a third colour for a mixture: a red line along the edge', () => {
    const planes = picture(truth, TEAL, OAK);
    const red = truth.map((a, i) => (a > 0.02 && a < 0.98 && i % W > 45 ? 1 : 0));
    red.forEach((v, i) => {
      if (v) [planes.r[i], planes.g[i], planes.b[i]] = [0.6, 0.02, 0.6];
    });
    const out = corrected(truth, 0.1, planes);
    red.forEach((v, i) => {
      if (v) expect(Math.abs(out[i]! - truth[i]!)).toBeLessThan(0.12);
    });
  });
  it('changes the edge and one pixel beyond it alone, and stays within 0..1', () => {
    const out = corrected(disc(21), 0.2);
    out.forEach((a, i) => {
      expect(a >= 0 && a <= 1).toBe(true);
      const r = Math.hypot((i % W) + 0.5 - 45, Math.floor(i / W) + 0.5 - 35);
      if (r < 15 || r > 27) expect(a).toBe(disc(21)[i]);
    });
  });
});
