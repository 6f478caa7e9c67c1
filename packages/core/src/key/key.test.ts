import type { RangeKey, Window } from '../document/key.ts';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { oklabFromOklch, type Oklab } from '../colour/oklab.ts';
import { RANGE_KEY_SPEC, rangeKeyAt, rangeKeyInto } from './rangeKey.ts';
import { HUE_FADE_CHROMA } from './window.ts';
import { windowsFromFirstPick, windowsFromPicks, windowsWithAdded, windowsWithRemoved } from './solveWindows.ts';
import { hueWindowAt, windowAt } from './window.ts';

const keyFromFirstPick = (samples: Oklab[]) => windowsFromFirstPick(RANGE_KEY_SPEC, samples);
const keyFromPicks = (picks: Parameters<typeof windowsFromPicks>[1]) => windowsFromPicks(RANGE_KEY_SPEC, picks);
const keyWithAdded = (key: RangeKey, samples: Oklab[]) => windowsWithAdded(RANGE_KEY_SPEC, key, samples);
const keyWithRemoved = (key: RangeKey, samples: Oklab[], wanted: Oklab[]) =>
  windowsWithRemoved(RANGE_KEY_SPEC, key, samples, wanted);
const open: Window = { on: false, lo: 0, hi: 0, softLo: 0, softHi: 0 };
const teal = {
  hue: { on: true, lo: 170, hi: 200, softLo: 10, softHi: 20 },
  chroma: { on: true, lo: 0.05, hi: 0.2, softLo: 0.02, softHi: 0.05 },
  lightness: open,
} satisfies RangeKey;
const at = (L: number, C: number, hDeg: number): Oklab => oklabFromOklch({ L, C, hDeg });

describe('window', () => {
  it('is 1 on the core, half way down in the middle of a margin, 0 past it', () => {
    const w: Window = { on: true, lo: 0.3, hi: 0.5, softLo: 0.1, softHi: 0.2 };
    expect([0.19, 0.25, 0.3, 0.4, 0.5, 0.6, 0.7].map((x) => +windowAt(w, x).toFixed(6))).toEqual([
      0, 0.5, 1, 1, 1, 0.5, 0,
    ]);
  });
  it('has a hard edge that belongs to the core when a margin is 0', () => {
    const w: Window = { on: true, lo: 1, hi: 2, softLo: 0, softHi: 0 };
    expect([0.999, 1, 2, 2.001].map((x) => windowAt(w, x))).toEqual([0, 1, 1, 0]);
  });
  it('wraps hue across red, on either side and after full turns', () => {
    const red: Window = { on: true, lo: 350, hi: 370, softLo: 10, softHi: 10 };
    expect([345, 350, 0, 10, 15, 180, -5, 725].map((h) => +hueWindowAt(red, h).toFixed(6))).toEqual([
      0.5, 1, 1, 1, 0.5, 0, 1, 1,
    ]);
  });
});

describe('range key', () => {
  it('is the product of its windows', () => {
    expect(rangeKeyAt(teal, at(0.6, 0.1, 185))).toBeCloseTo(1, 12);
    expect(rangeKeyAt(teal, at(0.6, 0.1, 165))).toBeCloseTo(0.5, 9);
    expect(rangeKeyAt(teal, at(0.6, 0.225, 165))).toBeCloseTo(0.25, 9);
    expect(rangeKeyAt(teal, at(0.6, 0.1, 60))).toBe(0);
  });
  it('lets no neutral in by its accidental hue, but keys greys when hue is off', () => {
    const grey: RangeKey = { ...teal, chroma: open };
    for (let h = 0; h < 360; h += 15) expect(rangeKeyAt(grey, at(0.5, HUE_FADE_CHROMA / 20, h))).toBeLessThan(0.01);
    expect(
      rangeKeyAt(
        { hue: open, chroma: { on: true, lo: 0, hi: 0.01, softLo: 0, softHi: 0.01 }, lightness: open },
        at(0.5, 0.001, 77),
      ),
    ).toBe(1);
  });
  it('stays within 0..1 and equals its plane loop for any windows and colours', () => {
    const window = (lo: number, span: number) =>
      fc
        .record({
          on: fc.boolean(),
          lo: fc.double({ min: lo, max: lo + span, noNaN: true }),
          width: fc.double({ min: 0, max: span, noNaN: true }),
          softLo: fc.double({ min: span / 100, max: span, noNaN: true }),
          softHi: fc.double({ min: span / 100, max: span, noNaN: true }),
        })
        .map(({ width, ...w }) => ({ ...w, hi: w.lo + width }));
    fc.assert(
      fc.property(
        window(0, 360),
        window(0, 0.4),
        window(0, 1),
        fc.double({ min: -0.2, max: 1.3, noNaN: true }),
        fc.double({ min: 0, max: 0.5, noNaN: true }),
        fc.double({ min: 0, max: 360, noNaN: true }),
        (hue, chroma, lightness, L, C, h) => {
          const key = { hue, chroma, lightness };
          const planes = {
            L: Float32Array.of(L),
            a: Float32Array.of(at(L, C, h).a),
            b: Float32Array.of(at(L, C, h).b),
          };
          const out = new Float32Array(1);
          rangeKeyInto(out, planes, key);
          const exact = rangeKeyAt(key, { L: planes.L[0]!, a: planes.a[0]!, b: planes.b[0]! });
          expect(exact).toBeGreaterThanOrEqual(0);
          expect(exact).toBeLessThanOrEqual(1);
          expect(Math.abs(out[0]! - exact)).toBeLessThan(5e-5);
        },
      ),
    );
  });
  it.each([
    ['a narrow hue', { lo: 170, hi: 200 }],
    ['a hue across red', { lo: 345, hi: 380 }],
    ['more than half the circle', { lo: 60, hi: 290 }],
    ['the whole circle', { lo: 0, hi: 360 }],
  ])('over a picture is what it is for each colour, on both sides of every window’s edges: %s', (_, ends) => {
    const soft = { on: true, softLo: 10, softHi: 10 };
    const key: RangeKey = {
      hue: { ...soft, ...ends },
      chroma: { on: true, lo: 0.06, hi: 0.16, softLo: 0.03, softHi: 0.05 },
      lightness: { on: true, lo: 0.3, hi: 0.7, softLo: 0.1, softHi: 0.15 },
    };
    const colours = [0.15, 0.25, 0.35, 0.6, 0.8, 0.9].flatMap((L) =>
      [0.005, 0.04, 0.07, 0.12, 0.18, 0.25].flatMap((C) => Array.from({ length: 72 }, (_, k) => at(L, C, k * 5 + 0.5))),
    );
    const plane = (name: 'L' | 'a' | 'b') => Float32Array.from(colours, (c) => c[name]);
    const planes = { L: plane('L'), a: plane('a'), b: plane('b') };
    const out = new Float32Array(colours.length).fill(7);
    rangeKeyInto(out, planes, key);
    const exact = colours.map((_, i) => rangeKeyAt(key, { L: planes.L[i]!, a: planes.a[i]!, b: planes.b[i]! }));
    const furthest = exact.reduce((most, e, i) => Math.max(most, Math.abs(e - out[i]!)), 0);
    expect(furthest).toBeLessThan(1e-5);
    // some are in, some are on a slope, some are out
    expect([1, 0].map((v) => exact.some((e) => e === v))).toEqual([true, true]);
    expect(exact.some((e) => e > 0.1 && e < 0.9)).toBe(true);
  });
});

describe('picks', () => {
  const cloth = [at(0.5, 0.1, 190), at(0.52, 0.11, 192), at(0.55, 0.12, 188)];
  const shadow = [at(0.28, 0.07, 196)];
  const cushion = [at(0.52, 0.11, 214)];
  it('sets all three windows so that the first samples are fully in and their complement is out', () => {
    const key = keyFromFirstPick(cloth);
    for (const s of cloth) expect(rangeKeyAt(key, s)).toBeCloseTo(1, 9);
    expect(rangeKeyAt(key, at(0.52, 0.11, 10))).toBe(0);
    expect(rangeKeyAt(key, at(0.95, 0.11, 190))).toBe(0);
  });
  it('works across red, where hue wraps', () => {
    const key = keyFromFirstPick([at(0.5, 0.15, 356), at(0.5, 0.15, 4)]);
    expect(key.hue.hi - key.hue.lo).toBeLessThan(40);
    expect(rangeKeyAt(key, at(0.5, 0.15, 0))).toBeCloseTo(1, 9);
  });
  it('widens only what must widen', () => {
    const before = keyFromFirstPick(cloth);
    const after = keyWithAdded(before, shadow);
    expect(rangeKeyAt(after, shadow[0]!)).toBeGreaterThan(0.98);
    expect(after.hue).toEqual(before.hue);
    expect(after.lightness.hi).toBe(before.lightness.hi);
    expect(keyWithAdded(after, shadow)).toBe(after);
  });
  it('widens no hue for a colour that has none, and nothing that is off', () => {
    const before = keyFromFirstPick(cloth);
    const grey = at(0.9, 0.004, 77);
    const after = keyWithAdded(before, [grey]);
    expect(after.hue).toEqual(before.hue);
    expect([after.chroma.lo, after.lightness.hi].map((v) => +v.toFixed(3))).toEqual([0.004, 0.9]);
    const off = { ...before, lightness: open, hue: open };
    const widened = keyWithAdded(off, [at(0.9, 0.3, 20)]);
    expect([widened.hue, widened.lightness, +widened.chroma.hi.toFixed(3)]).toEqual([open, open, 0.3]);
  });
  it('widens a hue on its nearer side, across red and to the whole circle at most', () => {
    const key = keyFromFirstPick([at(0.5, 0.15, 340), at(0.5, 0.15, 350)]);
    const { lo, hi } = key.hue;
    const up = keyWithAdded(key, [at(0.5, 0.15, 30)]).hue;
    expect([up.lo, +(up.hi - 390).toFixed(6)]).toEqual([lo, 0]);
    const down = keyWithAdded(key, [at(0.5, 0.15, 290)]).hue;
    expect([+(down.lo - 290).toFixed(6), +(down.hi - hi).toFixed(6)]).toEqual([0, 0]);
    const all = keyWithAdded(
      key,
      Array.from({ length: 36 }, (_, k) => at(0.5, 0.15, 10 * k)),
    ).hue;
    expect(all.hi - all.lo).toBeLessThanOrEqual(360);
  });
  describe('cut one side of a window, worked by hand', () => {
    // one window on L: core 0.4 to 0.6, margins of 0.1
    const spec = {
      channels: [{ name: 'x' as const, margin: 0, soft: 0.1, of: (s: Oklab) => s.L }],
      at: ({ x }: { x: Window }, s: Oklab) => windowAt(x, s.L),
    };
    const x: Window = { on: true, lo: 0.4, hi: 0.6, softLo: 0.1, softHi: 0.1 };
    const grey = (L: number): Oklab => ({ L, a: 0, b: 0 });
    const cut = (removed: number[], wanted: number[]) => {
      const next = windowsWithRemoved(spec, { x }, removed.map(grey), wanted.map(grey)).x;
      return [next.lo, next.hi, next.softLo, next.softHi].map((v) => +v.toFixed(6));
    };
    it('from above or below, whichever keeps what is wanted', () => {
      expect(cut([0.62], [0.45, 0.5])).toEqual([0.4, 0.52, 0.1, 0.1]);
      expect(cut([0.38], [0.55])).toEqual([0.48, 0.6, 0.1, 0.1]);
      expect(cut([0.62, 0.58], [0.45])).toEqual([0.4, 0.48, 0.1, 0.1]);
      expect(cut([0.38, 0.42], [0.55])).toEqual([0.52, 0.6, 0.1, 0.1]);
    });
    it('down to one end of the core, with as much margin as is left before what goes', () => {
      expect(cut([0.405], [0.4])).toEqual([0.4, 0.4, 0.1, 0.005]);
      expect(cut([0.595], [0.6])).toEqual([0.6, 0.6, 0.005, 0.1]);
    });
    it('not at all for what is out already', () => {
      const windows = { x };
      expect(windowsWithRemoved(spec, windows, [grey(0.2), grey(0.9)], [grey(0.5)])).toBe(windows);
      expect(cut([0.9, 0.62], [0.45])).toEqual(cut([0.62], [0.45]));
    });
    it('keeps what earlier picks added', () => {
      const added = { sign: 'add' as const, samples: [0.35, 0.5, 0.55].map(grey) };
      const [low, high] = [0.3, 0.6].map((L) => ({ sign: 'remove' as const, samples: [grey(L)] }));
      // added, the core is 0.35 to 0.55
      expect(windowsFromPicks(spec, [added, low!])!.x.lo).toBeGreaterThan(0.3);
      expect(windowAt(windowsFromPicks(spec, [added, low!])!.x, 0.5)).toBe(1);
      expect(windowAt(windowsFromPicks(spec, [added, high!])!.x, 0.5)).toBe(1);
      expect(windowAt(windowsFromPicks(spec, [added, low!, high!])!.x, 0.45)).toBe(1);
    });
    it('never one that is off', () => {
      const off = { x: { ...x, on: false } };
      expect(windowsWithRemoved(spec, off, [grey(0.5)], [])).toBe(off);
    });
  });
  it('removes a look-alike by the cut that keeps the wanted colours', () => {
    const key = keyFromFirstPick(cloth);
    const wide: RangeKey = { ...key, hue: { ...key.hue, hi: 225 } };
    expect(rangeKeyAt(wide, cushion[0]!)).toBeGreaterThan(0.9);
    const cut = keyWithRemoved(wide, cushion, cloth);
    expect(rangeKeyAt(cut, cushion[0]!)).toBeLessThanOrEqual(0.02);
    for (const s of cloth) expect(rangeKeyAt(cut, s)).toBeGreaterThan(0.95);
    expect(cut.chroma).toEqual(wide.chroma);
  });
  it('solves a list of picks the same way again, and has no key before the first add', () => {
    const picks = [
      { sign: 'add' as const, samples: cloth },
      { sign: 'add' as const, samples: shadow },
      { sign: 'remove' as const, samples: cushion },
    ];
    const key = keyFromPicks(picks)!;
    expect(key).toEqual(keyFromPicks(picks));
    for (const s of [...cloth, ...shadow]) expect(rangeKeyAt(key, s)).toBeGreaterThan(0.9);
    expect(rangeKeyAt(key, cushion[0]!)).toBeLessThanOrEqual(0.02);
    expect(keyFromPicks([{ sign: 'remove', samples: cushion }])).toBeUndefined();
    expect(() => keyFromFirstPick([])).toThrow(RangeError);
  });
});
