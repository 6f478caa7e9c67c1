// Closed-form matting on composites of which α is known: on colour lines it is exact but for what is smoothed and left
// unsolved (Levin et al. 2008, theorem 1).
import { expect, it } from 'vitest';
import { seededRandom } from '../track/random.ts';
import { closedFormMatte } from './closedFormMatte.ts';

const [W, H] = [96, 64];
/** Two sides, each shaded along a line of colours, mixed by α. */
function composite(alphaAt: (x: number, y: number) => number, noise = 0) {
  const random = seededRandom(7);
  const oklab = { L: new Float32Array(W * H), a: new Float32Array(W * H), b: new Float32Array(W * H) };
  const alpha = new Float32Array(W * H);
  for (let y = 0, i = 0; y < H; y++)
    for (let x = 0; x < W; x++, i++) {
      const v = alphaAt(x, y);
      alpha[i] = v;
      const shade = 0.05 * Math.sin(x / 11 + y / 17);
      oklab.L[i] = v * (0.7 + shade) + (1 - v) * (0.35 - shade) + noise * (random() - 0.5);
      oklab.a[i] = v * 0.1 + (1 - v) * -0.05;
      oklab.b[i] = v * -0.02 + (1 - v) * 0.06;
    }
  return { picture: { width: W, height: H, oklab }, alpha };
}
const mean = (values: number[]) => values.reduce((s, v) => s + v, 0) / values.length;
const ramp = (x: number) => Math.min(Math.max((x - 30) / 36, 0), 1);
/** Thin strands across the middle third. */
const hair = (x: number, y: number) => {
  if (x < 30) return 0;
  if (x > 66) return 1;
  return 0.5 + 0.45 * Math.sin(1.1 * y + 0.25 * x);
};
const unsure = Uint8Array.from({ length: W * H }, (_, i) => (i % W >= 28 && i % W < 68 ? 1 : 0));
const known = (alpha: Float32Array) => alpha.map((v, i) => (unsure[i] ? 0 : v));

it.each([
  ['a soft edge', ramp, 0, 0.02],
  ['hair', hair, 0, 0.05],
  ['a soft edge with noise', ramp, 0.02, 0.05],
] as const)('finds the α of %s', (_name, alphaAt, noise, most) => {
  const { picture, alpha } = composite(alphaAt, noise);
  const found = closedFormMatte(picture, known(alpha), unsure);
  const errors = [...found].flatMap((v, i) => (unsure[i] ? [Math.abs(v - alpha[i]!)] : []));
  expect(mean(errors)).toBeLessThan(most);
});
it('leaves what is known as it is, and everything where nothing is unsure', () => {
  const { picture, alpha } = composite(ramp);
  const given = known(alpha);
  const found = closedFormMatte(picture, given, unsure);
  expect(found.every((v, i) => unsure[i] === 1 || v === given[i])).toBe(true);
  expect(closedFormMatte(picture, given, new Uint8Array(W * H))).toEqual(given);
});
it('takes what is unsure between two knowns of one kind for that', () => {
  const { picture } = composite(() => 1);
  const found = closedFormMatte(picture, known(new Float32Array(W * H).fill(1)), unsure);
  expect(Math.min(...found)).toBeGreaterThan(0.98);
});
