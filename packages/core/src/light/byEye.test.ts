import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Balance } from '../document/balance.ts';
import { encodeTable, linear709FromCodes } from '../colour/encoding.ts';
import { oklabFromLinear709 } from '../colour/oklab.ts';
import { balanceInPlace, NEUTRAL_BALANCE } from './balance.ts';
import { balanceFromPairs, balanceWithTone, neutralised, TONES, toneUnder, type Tone } from './byEye.ts';

const tones = Object.keys(TONES) as Tone[];
const set: Balance = {
  exposureStops: 0.4,
  warmthMired: 12,
  slope: [1.1, 0.95, 1],
  offset: [0.01, -0.02, 0.015],
  power: [0.9, 1.1, 1.05],
  saturation: 0.8,
};
/** A colour through the balance as a picture goes through it. */
function through(balance: Balance, light: readonly [number, number, number]): number[] {
  const planes = { r: Float32Array.of(light[0]), g: Float32Array.of(light[1]), b: Float32Array.of(light[2]) };
  balanceInPlace(planes, balance, 'rec709', encodeTable('rec709'));
  return [planes.r[0]!, planes.g[0]!, planes.b[0]!];
}
const near = (values: readonly number[], digits = 4) => values.map((v) => expect.closeTo(v, digits));

describe('a tone', () => {
  it('is shown as what a picture’s grey becomes', () => {
    const withoutLight = { ...set, exposureStops: 0, warmthMired: 0 };
    for (const tone of tones) {
      const { grey } = TONES[tone];
      expect(toneUnder(set, tone, 'rec709')).toEqual(near(through(withoutLight, [grey, grey, grey])));
    }
  });
  it('becomes what is wanted of it, whatever the other numbers are', () => {
    const channel = fc.double({ min: 0.6, max: 1.5, noNaN: true });
    fc.assert(
      fc.property(fc.constantFrom(...tones), channel, channel, channel, (tone, r, g, b) => {
        const wanted = [r, g, b].map((k) => Math.min(TONES[tone].grey * k, 0.95)) as [number, number, number];
        const balance = balanceWithTone(set, tone, 'rec709', wanted);
        expect(toneUnder(balance, tone, 'rec709')).toEqual(near(wanted, 6));
      }),
    );
  });
  it('is turned by its own number alone', () => {
    for (const tone of tones) {
      const { grey, by } = TONES[tone];
      const { [by]: own, ...rest } = balanceWithTone(set, tone, 'rec709', [grey * 1.1, grey, grey * 0.9]);
      expect(set).toMatchObject(rest);
      expect(own).not.toEqual(set[by]);
    }
  });
  it('moves the tone at the other end less than itself', () => {
    const moved = (of: Tone, tone: Tone) => {
      const lighter = TONES[tone].grey * 1.15;
      const after = balanceWithTone(NEUTRAL_BALANCE, tone, 'rec709', [lighter, lighter, lighter]);
      const L = (b: Balance) => oklabFromLinear709(toneUnder(b, of, 'rec709')).L;
      return L(after) - L(NEUTRAL_BALANCE);
    };
    expect(moved('shadows', 'light')).toBeLessThan(moved('light', 'light'));
    expect(moved('light', 'shadows')).toBeLessThan(moved('shadows', 'shadows'));
  });
  it('stays in the range of its number', () => {
    const { slope } = balanceWithTone(NEUTRAL_BALANCE, 'light', 'rec709', [900, 0.8, 0]);
    expect(slope).toEqual([8, expect.closeTo(1, 9), 0]);
    const black = balanceWithTone(NEUTRAL_BALANCE, 'middle', 'rec709', [0, 0.18, 5]);
    expect(black.power.every((p) => p >= 0.1 && p <= 8)).toBe(true);
  });
});

describe('a neutral that was picked', () => {
  it('is neutral in the picture, at the luma it had', () => {
    const seen = [0.3, 0.22, 0.15] as const;
    const before = through(set, seen);
    const after = through(neutralised(set, 'rec709', seen), seen);
    expect(Math.max(...after) - Math.min(...after)).toBeLessThan(1e-5);
    // luma is a sum of codes: between what the codes were
    expect(after[0]).toBeGreaterThan(Math.min(...before));
    expect(after[0]).toBeLessThan(Math.max(...before));
  });
  it('of no light leaves its channel as it is', () =>
    expect(neutralised(NEUTRAL_BALANCE, 'rec709', [0, 0.2, 0.2]).slope[0]).toBe(1));
});

describe('patches', () => {
  const codes = (...c: [number, number, number]) => linear709FromCodes('rec709', c);
  const at = (slope: number, offset: number, here: [number, number, number]) => ({
    here: codes(...here),
    wanted: codes(...(here.map((x) => slope * x + offset) as [number, number, number])),
  });
  it('of a picture that a slope and an offset have made give these back', () => {
    const pairs = [at(1.2, -0.05, [0.2, 0.4, 0.3]), at(1.2, -0.05, [0.6, 0.5, 0.7]), at(1.2, -0.05, [0.4, 0.7, 0.5])];
    const { slope, offset, power } = balanceFromPairs(NEUTRAL_BALANCE, 'rec709', pairs);
    expect([slope, offset, power]).toEqual([near([1.2, 1.2, 1.2]), near([-0.05, -0.05, -0.05]), [1, 1, 1]]);
  });
  it('bring each nearest to what it is to look like, exposure and warmth kept', () => {
    const pairs = [at(0.8, 0.02, [0.3, 0.4, 0.5]), at(0.8, 0.02, [0.6, 0.6, 0.4])];
    const balance = balanceFromPairs(set, 'rec709', pairs);
    expect([balance.exposureStops, balance.warmthMired]).toEqual([0.4, 12]);
    for (const { here, wanted } of pairs) expect(through(balance, here)).toEqual(near(wanted, 3));
  });
  it('of one place give a slope; none leave all as it is', () => {
    const { slope, offset } = balanceFromPairs(NEUTRAL_BALANCE, 'rec709', [at(1.1, 0, [0.5, 0.5, 0.5])]);
    expect([slope, offset]).toEqual([near([1.1, 1.1, 1.1]), [0, 0, 0]]);
    expect(balanceFromPairs(set, 'rec709', [])).toBe(set);
  });
});
