// Which parts of strokes still lie on what they were drawn on, on pictures of a few colours, worked by hand.
import type { Oklab } from '../colour/oklab.ts';
import type { Stroke } from '../document/layer.ts';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { MOST_LOOKS, partsThatHold, strokeLooks, strokesThatHold, type LookedAt } from './looks.ts';
import { markedByStrokes } from './strokes.ts';

const [W, H] = [100, 20];
const RED: Oklab = { L: 0.6, a: 0.2, b: 0.1 };
const GREY: Oklab = { L: 0.5, a: 0, b: 0 };
const PALE: Oklab = { L: 0.85, a: 0.03, b: 0.05 };
/** Each column of a colour. */
function picture(colourAt: (x: number) => Oklab): LookedAt {
  const oklab = { L: new Float32Array(W * H), a: new Float32Array(W * H), b: new Float32Array(W * H) };
  for (let i = 0; i < W * H; i++) {
    const { L, a, b } = colourAt(i % W);
    oklab.L[i] = L;
    oklab.a[i] = a;
    oklab.b[i] = b;
  }
  return { oklab, width: W, height: H, scale: 1 };
}
const red = picture(() => RED);
const ACROSS: Stroke = {
  sign: 'in',
  widthPx: 4,
  points: [
    [10, 10],
    [90, 10],
  ],
};
const drawnOn = (where: LookedAt, stroke = ACROSS): Stroke => ({ ...stroke, looks: strokeLooks(where, stroke) });
const spans = (strokes: readonly Stroke[]) => strokes.map(({ points }) => [points[0]![0], points.at(-1)![0]]);

describe('what a stroke lies on', () => {
  it('is told once for each of its widths, from end to end', () => {
    const looks = strokeLooks(
      picture((x) => (x < 52 ? RED : GREY)),
      ACROSS,
    );
    // 80 px long, 4 px wide
    expect(looks).toHaveLength(21);
    expect(looks[0]!.a).toBeCloseTo(0.2, 6);
    expect(looks[20]!.a).toBeCloseTo(0, 6);
    expect(looks.filter(({ a }) => a > 0.1)).toHaveLength(11);
  });
  it('is one colour of a dot, and never more than a stroke may know', () => {
    expect(strokeLooks(red, { widthPx: 4, points: [[50, 10]] })).toHaveLength(1);
    expect(strokeLooks(red, { ...ACROSS, widthPx: 0.1 })).toHaveLength(MOST_LOOKS);
  });
  it('is the nearest in the picture where it leaves it', () => {
    const out = strokeLooks(red, { ...ACROSS, points: [[-40, 10]] });
    expect(out[0]!.L).toBeCloseTo(RED.L, 6);
  });
  it('lies at the same places of a picture of half the size', () => {
    const half = { ...picture((x) => (x < 26 ? RED : GREY)), scale: 0.5 };
    const looks = strokeLooks(half, ACROSS);
    expect(looks.filter(({ a }) => a > 0.1)).toHaveLength(11);
  });
});

describe('a stroke', () => {
  it('holds whole where nothing has changed', () => {
    expect(strokesThatHold([drawnOn(red)], red)).toEqual([drawnOn(red)]);
  });
  it('loses what something of another colour has come in front of, to half a width', () => {
    const behindPost = picture((x) => (x >= 40 && x < 60 ? GREY : RED));
    const held = spans(strokesThatHold([drawnOn(red)], behindPost));
    expect(held).toHaveLength(2);
    expect(held[0]![0]).toBe(10);
    expect(Math.abs(held[0]![1]! - 40)).toBeLessThanOrEqual(2);
    expect(Math.abs(held[1]![0]! - 60)).toBeLessThanOrEqual(2);
    expect(held[1]![1]).toBe(90);
  });
  it('keeps its corners between what is left out', () => {
    const bent: Stroke = { ...ACROSS, points: [...ACROSS.points, [90, 4]] };
    const held = strokesThatHold(
      [drawnOn(red, bent)],
      picture((x) => (x < 40 ? GREY : RED)),
    );
    expect(held).toHaveLength(1);
    expect(held[0]!.points.slice(1)).toEqual([
      [90, 10],
      [90, 4],
    ]);
  });
  it('is gone where none of it is seen', () => {
    expect(
      strokesThatHold(
        [drawnOn(red)],
        picture(() => GREY),
      ),
    ).toEqual([]);
  });
  it('holds under less light and another white, within bounds, but for what has come in front of it', () => {
    // half the light is 0.79 of OKLab; the tint is that of a white a little warmer
    const striped = (x: number) => (x % 20 < 10 ? RED : PALE);
    const lit = (factor: number, tint: number) =>
      picture((x) => {
        const { L, a, b } = x >= 40 && x < 60 ? GREY : striped(x);
        return { L: factor * L, a: factor * a, b: factor * b + tint * factor * L };
      });
    const drawn = drawnOn(picture(striped));
    expect(spans(strokesThatHold([drawn], lit(0.79, 0.03)))).toHaveLength(2);
    expect(strokesThatHold([drawn], lit(0.5, 0))).toEqual([]);
    expect(strokesThatHold([drawn], lit(1, 0.3))).toEqual([]);
  });
  it('may slide over its own texture', () => {
    const striped = (from: number) => picture((x) => (Math.floor((x + from) / 8) % 2 === 0 ? RED : GREY));
    expect(strokesThatHold([drawnOn(striped(0))], striped(8))).toEqual([drawnOn(striped(0))]);
  });
  it('marks nothing that it did not mark whole, and all of what holds but for its ends', () => {
    const places = fc.array(fc.tuple(fc.integer({ min: 0, max: W }), fc.integer({ min: 0, max: H })), {
      minLength: 1,
      maxLength: 6,
    });
    fc.assert(
      fc.property(
        places,
        fc.integer({ min: 2, max: 8 }),
        fc.array(fc.boolean(), { minLength: 10 }),
        (points, px, hid) => {
          const stroke = drawnOn(red, { ...ACROSS, points, widthPx: px });
          const later = picture((x) => (hid[Math.floor(x / 10)] ? GREY : RED));
          const marks = (strokes: readonly Stroke[]) => markedByStrokes(strokes, W, H, 1);
          const held = marks(strokesThatHold([stroke], later));
          // a pixel whose centre lies just on the rim may be rounded either way
          const [least, most] = [-1e-6, 1e-6].map((by) => marks([{ ...stroke, widthPx: px + by }])) as [
            Int8Array,
            Int8Array,
          ];
          held.forEach((m, i) => m !== 0 && expect(most[i]).toBe(m));
          // a place stands for the way half to the next, and is looked at as wide as the stroke
          const longest = points.reduce((sum, p, i) => sum + Math.hypot(p[0] - (points[i - 1] ?? p)[0], H), 0);
          const reach = Math.ceil(2 * px + longest / (MOST_LOOKS - 1));
          least.forEach((m, i) => {
            const x = i % W;
            const near = Array.from({ length: 2 * reach + 1 }, (_, k) => hid[Math.floor((x + k - reach) / 10)]);
            if (m !== 0 && !near.some(Boolean) && x >= reach && x < W - reach) expect(held[i]).toBe(m);
          });
        },
      ),
      { seed: 20_261_129, numRuns: 300 },
    );
  });
  it('loses what is off the picture', () => {
    const half: Stroke = {
      ...drawnOn(red),
      points: [
        [60, 10],
        [140, 10],
      ],
    };
    expect(spans(strokesThatHold([half], red))).toEqual([[60, 102]]);
  });
  it('stays as it is where it does not know what it was drawn on, or says nothing of colours', () => {
    const grey = picture(() => GREY);
    const others = (['in', 'unsure', 'around'] as const).map((sign, k) =>
      k === 0 ? ACROSS : { ...drawnOn(red), sign },
    );
    expect(strokesThatHold(others, grey)).toEqual(others);
  });
});

it('parts are told stroke by stroke: one that holds is itself, one that is covered has none', () => {
  const [left, right] = [
    { ...ACROSS, points: [[5, 10], [30, 10]] as [number, number][] },
    { ...ACROSS, points: [[60, 10], [95, 10]] as [number, number][] },
  ]; // prettier-ignore
  const strokes = [drawnOn(red, left), drawnOn(red), drawnOn(red, right), left];
  const covered = picture((x) => (x < 50 ? RED : GREY));
  const parts = partsThatHold(strokes, covered);
  expect(parts[0]).toEqual([strokes[0]]);
  expect(parts[0]![0]).toBe(strokes[0]);
  expect(spans(parts[1]!)).toEqual([[10, expect.closeTo(50, -1)]]);
  expect(parts[2]).toEqual([]);
  // one that knows nothing holds
  expect(parts[3]![0]).toBe(strokes[3]);
  expect(strokesThatHold(strokes, covered)).toEqual(parts.flat());
});
