import type { Stroke } from '../document/layer.ts';
import { expect, it } from 'vitest';
import { seededRandom } from '../track/random.ts';
import { shrunk } from './resized.ts';
import { selectionInto } from './selection.ts';

const [W, H] = [360, 240];
const [CX, CY, R] = [150, 120, 60];
/** Is a place inside the disc? */
const isDisc = (x: number, y: number) => Math.hypot(x - CX, y - CY) < R;
/** A second disc of the same colour, apart from the first. */
const isOther = (x: number, y: number) => Math.hypot(x - 300, y - 60) < 30;
/** Discs of one colour with shading and noise on a mottled ground, four samples a pixel each way. */
function picture(seed = 1) {
  const random = seededRandom(seed);
  const planes = { L: new Float32Array(W * H), a: new Float32Array(W * H), b: new Float32Array(W * H) };
  for (let y = 0; y < H; y++)
    for (let x = 0; x < W; x++) {
      let share = 0;
      for (let k = 0; k < 16; k++) {
        const [u, v] = [x + ((k % 4) + 0.5) / 4, y + (Math.floor(k / 4) + 0.5) / 4];
        if (isDisc(u, v) || isOther(u, v)) share += 1 / 16;
      }
      const i = y * W + x;
      const ground = 0.5 + 0.08 * Math.sin(x / 9) * Math.cos(y / 7);
      planes.L[i] = share * (0.62 + 0.1 * Math.sin(y / 40)) + (1 - share) * ground + 0.02 * (random() - 0.5);
      planes.a[i] = share * 0.1 + (1 - share) * 0.02 + 0.01 * (random() - 0.5);
      planes.b[i] = share * -0.04 + (1 - share) * 0.03 + 0.01 * (random() - 0.5);
    }
  return planes;
}
const IN: Stroke = {
  sign: 'in',
  widthPx: 6,
  points: [
    [120, 110],
    [150, 130],
    [175, 115],
  ],
};
const OUT: Stroke = {
  sign: 'out',
  widthPx: 6,
  points: [
    [60, 40],
    [60, 200],
    [240, 200],
  ],
};
const select = (strokes: Stroke[], planes = picture()) => {
  const out = new Float32Array(W * H);
  selectionInto(out, planes, W, H, 1, strokes);
  return out;
};
const areaOf = (alpha: Float32Array) => alpha.reduce((s, v) => s + v, 0);

it('selects the disc that was drawn on, to a fortieth of its area, and not another of its colour', () => {
  const alpha = select([IN, OUT]);
  let wrong = 0;
  for (let i = 0; i < alpha.length; i++)
    wrong += Math.abs(alpha[i]! - (isDisc((i % W) + 0.5, Math.floor(i / W) + 0.5) ? 1 : 0));
  expect(wrong / (Math.PI * R * R)).toBeLessThan(1 / 40);
  expect(alpha[60 * W + 300]).toBe(0);
});
it('does as much without a stroke that leaves out', () => {
  const alpha = select([IN]);
  expect(areaOf(alpha) / (Math.PI * R * R)).toBeGreaterThan(0.93);
  expect(areaOf(alpha) / (Math.PI * R * R)).toBeLessThan(1.07);
});
it('takes a second region in when a stroke reaches it, and half of the disc out when one is drawn over it', () => {
  const both = select([
    IN,
    OUT,
    {
      sign: 'in',
      widthPx: 6,
      points: [
        [295, 60],
        [305, 62],
      ],
    },
  ]);
  expect(both[60 * W + 300]).toBe(1);
  expect(areaOf(both)).toBeGreaterThan(areaOf(select([IN, OUT])) + 0.9 * Math.PI * 30 * 30);
  const cut: Stroke = {
    sign: 'out',
    widthPx: 20,
    points: [
      [150, 60],
      [150, 180],
    ],
  };
  expect(
    areaOf(
      select([
        {
          ...IN,
          points: [
            [115, 115],
            [120, 125],
          ],
        },
        OUT,
        cut,
      ]),
    ),
  ).toBeLessThan(0.75 * Math.PI * R * R);
});
it('selects nothing without a stroke that takes in, and nothing when that lies off the picture', () => {
  expect(areaOf(select([OUT]))).toBe(0);
  expect(areaOf(select([]))).toBe(0);
  expect(
    areaOf(
      select([
        {
          ...IN,
          points: [
            [-500, -500],
            [-480, -500],
          ],
        },
        OUT,
      ]),
    ),
  ).toBe(0);
});
it('where all is of one colour, goes half way to the stroke that leaves out', () => {
  const plain = (v: number) => new Float32Array(W * H).fill(v);
  const across = (x: number, sign: Stroke['sign']): Stroke => ({
    sign,
    widthPx: 8,
    points: [
      [x, 10],
      [x, 230],
    ],
  });
  const alpha = select([across(60, 'in'), across(260, 'out')], { L: plain(0.5), a: plain(0.05), b: plain(0) });
  const row = alpha.subarray(120 * W, 121 * W);
  expect([row[60], row[120], row[200], row[260]]).toEqual([1, 1, 0, 0]);
});
it('keeps α within 0..1 and gives the same again', () => {
  const planes = picture(3);
  const [once, again] = [select([IN, OUT], planes), select([IN, OUT], planes)];
  expect(once.every((v) => v >= 0 && v <= 1)).toBe(true);
  expect(again).toEqual(once);
});
it('at half the size is the half-size matte, to a fiftieth of its area', () => {
  const planes = picture();
  const [w, h] = [W / 2, H / 2];
  const half = { L: shrunk(planes.L, W, H, w, h), a: shrunk(planes.a, W, H, w, h), b: shrunk(planes.b, W, H, w, h) };
  const small = new Float32Array(w * h);
  selectionInto(small, half, w, h, 0.5, [IN, OUT]);
  const large = shrunk(select([IN, OUT], planes), W, H, w, h);
  const difference = small.reduce((s, v, i) => s + Math.abs(v - large[i]!), 0);
  expect(difference / areaOf(large)).toBeLessThan(1 / 50);
});
