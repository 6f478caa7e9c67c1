import type { Stroke } from '../document/layer.ts';
import { expect, it } from 'vitest';
import { compareMasks } from '../testing/carried.ts';
import { seededRandom } from '../track/random.ts';
import { strokeLooks } from './looks.ts';
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
  const seen = { oklab: planes, width: W, height: H, scale: 1 };
  selectionInto(out, seen, seen, strokes);
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
it('hears nothing of a stroke that stands where the disc has moved to', () => {
  const by = -70;
  const planes = picture();
  const column = (i: number) => Math.min(Math.max((i % W) - by, 0), W - 1) - (i % W);
  const along = (plane: Float32Array) => plane.map((_, i) => plane[i + column(i)]!);
  const later = { L: along(planes.L), a: along(planes.a), b: along(planes.b) };
  const lookedAt = { oklab: planes, width: W, height: H, scale: 1 };
  const [there, stands] = [IN, OUT].map((stroke) => ({ ...stroke, looks: strokeLooks(lookedAt, stroke) }));
  const rides: Stroke = { ...there!, points: there!.points.map(([x, y]) => [x + by, y]) };
  const wrong = (strokes: Stroke[]) =>
    select(strokes, later).reduce(
      (sum, v, i) => sum + Math.abs(v - (isDisc((i % W) + 0.5 - by, Math.floor(i / W) + 0.5) ? 1 : 0)),
      0,
    ) /
    (Math.PI * R * R);
  expect(wrong([rides, stands!])).toBeLessThan(1 / 40);
  const { looks: _looks, ...unaware } = stands!;
  expect(wrong([rides, unaware])).toBeGreaterThan(1 / 10);
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
  const seen = { oklab: half, width: w, height: h, scale: 0.5 };
  selectionInto(small, seen, seen, [IN, OUT]);
  const large = shrunk(select([IN, OUT], planes), W, H, w, h);
  const difference = small.reduce((s, v, i) => s + Math.abs(v - large[i]!), 0);
  expect(difference / areaOf(large)).toBeLessThan(1 / 50);
});

/** A line round the disc, well outside it. */
const ROUND: Stroke = {
  sign: 'around',
  widthPx: 2,
  points: [
    [75, 45],
    [225, 45],
    [225, 195],
    [75, 195],
  ],
};
it('finds what a line goes round, without a stroke in it, and takes it for a limit beside one', () => {
  const alpha = select([ROUND]);
  expect(areaOf(alpha) / (Math.PI * R * R)).toBeGreaterThan(0.95);
  expect(areaOf(alpha) / (Math.PI * R * R)).toBeLessThan(1.05);
  const cut: Stroke = { ...ROUND, points: ROUND.points.map(([x, y]) => [Math.min(x, CX), y]) };
  const half = select([
    {
      ...IN,
      points: [
        [120, 110],
        [130, 130],
      ],
    },
    cut,
  ]);
  expect(half.some((v, i) => v > 0.5 && i % W > CX + 3)).toBe(false);
  expect(areaOf(half)).toBeGreaterThan(0.35 * Math.PI * R * R);
});
it('grows from a click as far as it is let, and takes the disc and no more over a wide range', () => {
  const grown = (reach: number) => areaOf(select([{ sign: 'in', widthPx: 6, points: [[150, 120]], reach }]));
  const areas = [0.01, 0.03, 0.08, 0.12, 1.5].map(grown);
  for (let k = 1; k < areas.length; k++) expect(areas[k]).toBeGreaterThanOrEqual(areas[k - 1]! * 0.99);
  expect(areas[0]).toBeLessThan(0.3 * Math.PI * R * R);
  for (const area of areas.slice(2, 4)) expect(area / (Math.PI * R * R)).toBeCloseTo(1, 1);
  expect(areas[4]).toBeGreaterThan(2 * Math.PI * R * R);
});
it('grows on beside strokes that leave out', () => {
  const click: Stroke = { sign: 'in', widthPx: 6, points: [[150, 120]], reach: 0.1 };
  const alpha = select([click, OUT]);
  expect(areaOf(alpha) / (Math.PI * R * R)).toBeCloseTo(1, 1);
});
it('is decided on the picture as it was seen, which may be smaller, whatever this one shows', () => {
  const planes = picture();
  const [w, h] = [W / 2, H / 2];
  const to = (plane: Float32Array) => shrunk(plane, W, H, w, h);
  const half = { oklab: { L: to(planes.L), a: to(planes.a), b: to(planes.b) }, width: w, height: h, scale: 0.5 };
  const flat = { L: new Float32Array(W * H).fill(0.5), a: new Float32Array(W * H), b: new Float32Array(W * H) };
  const out = new Float32Array(W * H);
  selectionInto(out, { oklab: flat, width: W, height: H }, half, [IN, OUT]);
  // its edge alone is that of the picture itself
  expect(compareMasks(out, select([IN, OUT], planes))).toBeGreaterThan(0.9);
});
it('is hard where that is asked for, and softer in a wider band', () => {
  const soft = (softPx?: number) => {
    const out = new Float32Array(W * H);
    const seen = { oklab: picture(), width: W, height: H, scale: 1 };
    selectionInto(out, seen, seen, [IN, OUT], { softPx });
    return out.filter((v) => v > 0.02 && v < 0.98).length;
  };
  expect(soft(0)).toBeLessThan(0.6 * soft(4));
  expect(soft(12)).toBeGreaterThan(1.2 * soft(4));
});
it('under a stroke that says unsure, α is the picture’s own', () => {
  // from the disc's colour to the ground's over 40 pixels, left of its middle
  const planes = picture();
  const share = (i: number) => Math.min(Math.max(((i % W) - 70) / 40, 0), 1);
  for (let i = 0; i < W * H; i++) {
    const y = Math.floor(i / W);
    if (y < 100 || y >= 140 || i % W > 150) continue;
    planes.L[i] = 0.42 + 0.2 * share(i);
    planes.a[i] = 0.02 + 0.08 * share(i);
    planes.b[i] = 0.03 - 0.07 * share(i);
  }
  const unsure: Stroke = {
    sign: 'unsure',
    widthPx: 56,
    points: [
      [70, 120],
      [110, 120],
    ],
  };
  const error = (strokes: Stroke[]) => {
    const alpha = select(strokes, planes);
    let [sum, n] = [0, 0];
    for (let x = 66; x < 114; x++) {
      sum += Math.abs(alpha[120 * W + x]! - share(120 * W + x));
      n++;
    }
    return sum / n;
  };
  const out: Stroke = {
    ...OUT,
    points: [
      [20, 40],
      [20, 200],
      [240, 200],
    ],
  };
  expect(error([IN, out, unsure])).toBeLessThan(0.05);
  expect(error([IN, out])).toBeGreaterThan(0.1);
});
