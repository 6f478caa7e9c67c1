import type { CleanUp } from '../document/cleaning.ts';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { halvedMean, randomMatte, sum, thresholded, worst } from '../testing/mattes.ts';
import { cleanUpInPlace, NO_CLEAN_UP, quietInPlace, softenInPlace } from './cleanUp.ts';
import { fillHolesInPlace, removeIslandsInPlace } from './components.ts';
import { moveEdgeInPlace } from './edge.ts';
import { gaussianInPlace } from './gaussian.ts';
import { guidedFilterInPlace } from './guidedFilter.ts';
import { meterMatte } from './meter.ts';

const [W, H] = [120, 90];
const disc = (r: number, cx = 60, cy = 45, w = W, h = H) =>
  Float32Array.from({ length: w * h }, (_, i) =>
    Math.min(Math.max(r - Math.hypot((i % w) + 0.5 - cx, Math.floor(i / w) + 0.5 - cy) + 0.5, 0), 1),
  );
const cleaned = (alpha: Float32Array, change: Partial<CleanUp>, w = W, h = H, scale = 1) => {
  const out = alpha.slice();
  cleanUpInPlace(out, w, h, { ...NO_CLEAN_UP, ...change }, scale, () => alpha);
  return out;
};
const moved = (alpha: Float32Array, r: number) => {
  const out = alpha.slice();
  moveEdgeInPlace(out, W, H, r);
  return out;
};

describe('edge', () => {
  it.each([-8, -2.3, -0.5, 0.5, 1.7, 10])(
    'moves the edge of a disc by %f px: its area is that of the other radius',
    (r) => {
      // area πr² (Archimedes); the edge may be off by 0.04 px all round
      expect(Math.abs(sum(moved(disc(25), r)) - Math.PI * (25 + r) ** 2)).toBeLessThan(0.04 * 2 * Math.PI * (25 + r));
    },
  );
  it('keeps a soft edge as soft as it was', () => {
    const ramp = Float32Array.from({ length: W * H }, (_, i) => Math.min(Math.max(((i % W) - 40) / 20, 0), 1));
    const grown = moved(ramp, 6);
    for (let x = 40; x < 60; x++)
      expect(Math.abs(grown[45 * W + x]! - Math.min(Math.max((x + 6 - 40) / 20, 0), 1))).toBeLessThan(0.01);
  });
  it(
    'never leaves a hard matte, to the pixels next door, when it grows after shrinking, nor ' +
      'loses it the other way round',
    () => {
      const ring = [0, -1, 1, -W, W, -W - 1, -W + 1, W - 1, W + 1];
      fc.assert(
        fc.property(fc.integer({ min: 1, max: 5000 }), fc.double({ min: 0.3, max: 9, noNaN: true }), (seed, r) => {
          const alpha = Float32Array.from(thresholded(randomMatte(W, H, seed, 5)));
          const opened = moved(moved(alpha, -r), r);
          const closed = moved(moved(alpha, r), -r);
          let [leak, loss] = [0, 0];
          for (let i = 0; i < alpha.length; i++) {
            leak = Math.max(leak, opened[i]! - Math.max(...ring.map((d) => alpha[i + d] ?? 0)));
            loss = Math.max(loss, Math.min(...ring.map((d) => alpha[i + d] ?? 1)) - closed[i]!);
          }
          expect(Math.max(leak, loss)).toBeLessThan(0.01);
        }),
        { numRuns: 25 },
      );
    },
  );
  it('leaves a soft matte nearly so: fewer than 5 pixels in 1000 by more than 0.05', () => {
    let [leaking, all] = [0, 0];
    for (let seed = 1; seed <= 12; seed++) {
      const alpha = randomMatte(W, H, seed, 5);
      const opened = moved(moved(alpha, -3), 3);
      for (let i = 0; i < alpha.length; i++) if (opened[i]! > alpha[i]! + 0.05) leaking++;
      all += alpha.length;
    }
    expect(leaking / all).toBeLessThan(0.005);
  });
});

describe('clean-up', () => {
  const parameters = fc.record({
    quietPx: fc.double({ min: 0, max: 30, noNaN: true }),
    floor: fc.double({ min: 0, max: 0.5, noNaN: true }),
    ceiling: fc.double({ min: 0.51, max: 1, noNaN: true }),
    islandsPx: fc.double({ min: 0, max: 900, noNaN: true }),
    holesPx: fc.double({ min: 0, max: 900, noNaN: true }),
    edgePx: fc.double({ min: -20, max: 20, noNaN: true }),
    softenPx: fc.double({ min: 0, max: 30, noNaN: true }),
    softenBias: fc.double({ min: -1, max: 1, noNaN: true }),
  });
  it('stays within 0..1 for any numbers', () => {
    fc.assert(
      fc.property(parameters, fc.integer({ min: 1, max: 99 }), (c, seed) => {
        expect(cleaned(randomMatte(60, 40, seed, 5), c, 60, 40).every((v) => v >= 0 && v <= 1)).toBe(true);
      }),
      { numRuns: 60 },
    );
  });
  it('off, changes nothing', () => expect(cleaned(randomMatte(W, H, 3), {})).toEqual(randomMatte(W, H, 3)));
  it('sets floor and ceiling, linear between', () => {
    const out = cleaned(
      Float32Array.from({ length: W * H }, (_, i) => (i % W) / W),
      { floor: 0.25, ceiling: 0.75 },
    );
    expect([out[30], out[60], out[90]]).toEqual([0, 0.5, 1]);
  });
  it('removes islands and fills holes by their area, and leaves the larger ones', () => {
    const [hole, speck] = [disc(4), disc(3, 15, 15)];
    const alpha = disc(20).map((a, i) => Math.max(Math.min(a, 1 - hole[i]!), speck[i]!));
    removeIslandsInPlace(alpha, W, H, 30);
    expect(alpha[15 * W + 15]).toBe(0);
    expect(alpha[45 * W + 75]).toBe(1);
    fillHolesInPlace(alpha, W, H, 40);
    expect(alpha[45 * W + 60]).toBe(0); // the hole is 50 px² large
    fillHolesInPlace(alpha, W, H, 60);
    expect(alpha[45 * W + 60]).toBe(1);
  });
  it('softens both ways, only outwards, only inwards', () => {
    const alpha = disc(20);
    const at = (bias: number, x: number) => {
      const out = alpha.slice();
      softenInPlace(out, W, H, 3, bias);
      return out[45 * W + x]!;
    };
    // the edge is at x = 80, half a pixel before that pixel's centre: Φ(−0.5 / 3) = 0.43 on a straight edge, less on a
    // round one
    expect(at(0, 80)).toBeGreaterThan(0.38);
    expect(at(0, 80)).toBeLessThan(0.43);
    expect(at(1, 78)).toBe(1);
    expect(at(1, 82)).toBeGreaterThan(0.3);
    expect(at(-1, 82)).toBe(0);
    expect(at(-1, 78)).toBeLessThan(0.7);
  });
  it('means the same at half size: the half-size clean-up is the full one averaged, to 0.08', () => {
    const full = cleaned(disc(30, 60, 45), { edgePx: -4, softenPx: 4, islandsPx: 40 });
    const half = cleaned(disc(15, 30, 22.5, 60, 45), { edgePx: -4, softenPx: 4, islandsPx: 40 }, 60, 45, 0.5);
    expect(worst(halvedMean(full, W, H), half)).toBeLessThan(0.08);
  });
});

describe('gaussian', () => {
  it('keeps a constant, and its sum over an impulse is 1 with the variance asked for', () => {
    const flat = new Float32Array(W * H).fill(0.7);
    gaussianInPlace(flat, W, H, 9);
    expect(Math.max(...flat) - Math.min(...flat)).toBeLessThan(1e-5);
    const [w, h] = [161, 161];
    const impulse = new Float32Array(w * h);
    impulse[80 * w + 80] = 1;
    gaussianInPlace(impulse, w, h, 6);
    expect(sum(impulse)).toBeCloseTo(1, 3);
    expect(Math.sqrt(sum(impulse.map((v, i) => v * ((i % w) - 80) ** 2)))).toBeCloseTo(6, 1);
  });
  it('refuses a negative σ', () => expect(() => gaussianInPlace(new Float32Array(4), 2, 2, -1)).toThrow(RangeError));
});

it('the meter counts islands, holes, what is partly there and what is clipped', () => {
  const [hole, other] = [disc(5, 40, 45), disc(6, 100, 20)];
  const alpha = disc(20, 40, 45).map((a, i) => Math.max(Math.min(a, 1 - hole[i]!), other[i]!));
  const meter = meterMatte(alpha, W, H, (i) => i % W === 100);
  expect([meter.islands, meter.holes]).toEqual([2, 1]);
  expect(meter.shareOfPicture).toBeCloseTo((Math.PI * (400 - 25 + 36)) / (W * H), 3);
  expect(meter.partlyShare).toBeGreaterThan(0.05);
  expect(meter.partlyShare).toBeLessThan(0.25);
  expect(meter.clippedShare).toBeCloseTo(12 / (Math.PI * (400 - 25 + 36)), 2);
  expect(meterMatte(new Float32Array(W * H), W, H, () => true)).toEqual({
    shareOfPicture: 0,
    partlyShare: 0,
    islands: 0,
    holes: 0,
    clippedShare: 0,
  });
});

describe('at another size', () => {
  /** A square island of `side` pixels in an empty matte. */
  const island = (side: number) => {
    const alpha = new Float32Array(32 * 32);
    for (let y = 0; y < side; y++) for (let x = 0; x < side; x++) alpha[(y + 8) * 32 + x + 8] = 1;
    return alpha;
  };
  const left = (side: number, islandsPx: number, scale: number) => {
    const alpha = island(side);
    cleanUpInPlace(alpha, 32, 32, { ...NO_CLEAN_UP, islandsPx }, scale, () => new Float32Array(alpha.length));
    return alpha.some((a) => a > 0);
  };
  it('an island’s area counts by the square of the scale', () => {
    // 4 × 4 pixels at half size are 64 of the full picture: more than 50, less than 80
    expect([left(4, 50, 0.5), left(4, 80, 0.5)]).toEqual([true, false]);
    expect([left(4, 15, 1), left(4, 17, 1)]).toEqual([true, false]);
  });
});

it('softening selects nothing where nothing was near: what is left of its recursion is exactly 0', () => {
  const alpha = new Float32Array(200 * 3);
  for (let y = 0; y < 3; y++) alpha[y * 200 + 20] = 1;
  softenInPlace(alpha, 200, 3, 4, 0);
  expect(alpha[20]).toBeGreaterThan(0.05);
  expect(alpha.subarray(60, 200).every((a) => a === 0)).toBe(true);
  expect(alpha.every((a) => a === 0 || a >= 1e-3)).toBe(true);
});

it('softening a matte that selects a part of the picture gives what softening all of it gives, to the bit', () => {
  const numbers = fc.record({
    sigma: fc.double({ min: 0.3, max: 12, noNaN: true }),
    bias: fc.double({ min: -1, max: 1, noNaN: true }),
    x: fc.integer({ min: 0, max: 199 }),
    y: fc.integer({ min: 0, max: 159 }),
    r: fc.double({ min: 0.2, max: 30, noNaN: true }),
  });
  const check = ({ sigma, bias, x, y, r }: { sigma: number; bias: number; x: number; y: number; r: number }) => {
    const [lo, hi] = [Math.max(-bias, 0) / 2, 1 - Math.max(bias, 0) / 2];
    const whole = disc(r, x, y, 200, 160);
    const part = whole.slice();
    softenInPlace(part, 200, 160, sigma, bias);
    gaussianInPlace(whole, 200, 160, sigma);
    for (let i = 0; i < whole.length; i++) {
      const shifted = Math.fround((whole[i]! - lo) / (hi - lo));
      whole[i] = shifted < 1e-3 ? 0 : Math.min(shifted, 1);
    }
    expect(worst(part, whole)).toBe(0);
  };
  fc.assert(fc.property(numbers, check), { seed: 31, numRuns: 60 });
});

it('quieting a matte of a part of the picture gives what quieting all of it gives, and nothing beyond', () => {
  const guide = randomMatte(200, 160, 3);
  const numbers = fc.record({
    radius: fc.integer({ min: 1, max: 25 }),
    x: fc.integer({ min: 0, max: 199 }),
    y: fc.integer({ min: 0, max: 159 }),
    r: fc.double({ min: 0.2, max: 30, noNaN: true }),
  });
  const check = ({ radius, x, y, r }: { radius: number; x: number; y: number; r: number }) => {
    const patchy = (a: number, i: number) => a * (0.6 + 0.4 * guide[(7 * i) % guide.length]!);
    const whole = disc(r, x, y, 200, 160).map(patchy);
    const part = whole.slice();
    quietInPlace(part, 200, 160, radius, () => guide);
    guidedFilterInPlace(whole, guide, 200, 160, radius, 0.03 ** 2);
    expect(
      worst(
        part,
        whole.map((a) => Math.min(Math.max(a, 0), 1)),
      ),
    ).toBeLessThan(1.1e-6);
    const reach = r + 2 * radius + 1;
    const off = (i: number) => Math.max(Math.abs((i % 200) - x), Math.abs(Math.floor(i / 200) - y));
    expect(part.every((a, i) => a === 0 || (a >= 1e-6 && off(i) <= reach + 1))).toBe(true);
  };
  fc.assert(fc.property(numbers, check), { seed: 37, numRuns: 60 });
});
