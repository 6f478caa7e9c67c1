import { describe, expect, it } from 'vitest';
import { oklabFromLinear709 } from '../colour/oklab.ts';
import { linear709FromCodes } from '../colour/encoding.ts';
import { BAR_TARGETS, lumaChroma, scopeOf, type Scope } from './scopes.ts';
import { FIELD_REACH } from './colourDensity.ts';

const flat = (codes: readonly number[], width = 4, height = 3) => {
  const of = (v: number) => new Uint16Array(width * height).fill(Math.round(v * 65535));
  return { width, height, r: of(codes[0]!), g: of(codes[1]!), b: of(codes[2]!) };
};
const top = ({ width, traces }: Scope, k = 0) => {
  const i = traces[k]!.indexOf(Math.max(...traces[k]!));
  return { x: i % width, y: Math.floor(i / width), n: traces[k]![i]! };
};

describe('luma and chroma', () => {
  // Rec. ITU-R BT.709-6, 3.2 and 3.3: E'Y = 0.2126 R + 0.7152 G + 0.0722 B, divisors 1.8556 and 1.5748
  it('are those of BT.709', () => {
    const [y, cb, cr] = lumaChroma([0.2, 0.5, 0.9], 'rec709');
    expect(y).toBeCloseTo(0.2126 * 0.2 + 0.7152 * 0.5 + 0.0722 * 0.9, 12);
    expect(cb).toBeCloseTo((0.9 - y) / 1.8556, 12);
    expect(cr).toBeCloseTo((0.2 - y) / 1.5748, 12);
  });
  it('are those of BT.2020 where the file is of it (divisors 1.8814 and 1.4746)', () => {
    const [y, cb, cr] = lumaChroma([0.2, 0.5, 0.9], 'rec2020');
    expect(y).toBeCloseTo(0.2627 * 0.2 + 0.678 * 0.5 + 0.0593 * 0.9, 12);
    expect(cb).toBeCloseTo((0.9 - y) / 1.8814, 12);
    expect(cr).toBeCloseTo((0.2 - y) / 1.4746, 12);
  });
  /**
   * 75 % bars in BT.709, ten bits: the luma and colour-difference codes that SMPTE RP 219-1:2014 table 1 prints for its
   * bars (from memory), 64 + 876·Y′ and 512 + 896·C.
   */
  it.each([
    ['Yl', 674, 176, 543],
    ['Cy', 581, 589, 176],
    ['G', 534, 253, 207],
    ['Mg', 251, 771, 817],
    ['R', 204, 435, 848],
    ['B', 111, 848, 481],
  ])('put the bar %s at its printed codes', (name, y, cb, cr) => {
    const { codes } = BAR_TARGETS.find((t) => t.name === name)!;
    const [Y, Cb, Cr] = lumaChroma(codes, 'rec709');
    expect([64 + 876 * Y, 512 + 896 * Cb, 512 + 896 * Cr].map(Math.round)).toEqual([y, cb, cr]);
  });
});

describe('a scope', () => {
  it.each(BAR_TARGETS)('shows the bar $name on its target', ({ codes }) => {
    const scope = scopeOf('vectorscope', flat(codes), 'rec709', 'picture');
    const [, cb, cr] = lumaChroma(codes, 'rec709');
    const at = top(scope);
    expect(Math.abs((at.x + 0.5) / scope.width - (0.5 + cb))).toBeLessThan(1 / scope.width);
    expect(Math.abs((at.y + 0.5) / scope.height - (0.5 - cr))).toBeLessThan(1 / scope.height);
    expect(at.n).toBe(12);
  });
  it('scatters hue and chroma as the swing has them', () => {
    const scope = scopeOf('hue and chroma', flat([0.8, 0.3, 0.1]), 'srgb', 'picture');
    const { a, b } = oklabFromLinear709(linear709FromCodes('srgb', [0.8, 0.3, 0.1]));
    const at = top(scope);
    expect(at.x).toBe(Math.floor((0.5 + a / FIELD_REACH / 2) * scope.width));
    expect(at.y).toBe(Math.floor((0.5 - b / FIELD_REACH / 2) * scope.height));
  });
  it('has the picture’s columns in the waveform, white at the top', () => {
    const ramp = flat([0, 0, 0], 960, 2);
    for (const plane of [ramp.r, ramp.g, ramp.b]) plane.forEach((_, i) => (plane[i] = ((i % 960) / 959) * 65535));
    const { width, height, traces } = scopeOf('waveform', ramp, 'rec709', 'picture');
    const rowsOf = (x: number) => Array.from({ length: height }, (_, y) => y).filter((y) => traces[0]![y * width + x]);
    expect(rowsOf(width - 1)).toEqual([0]);
    expect(rowsOf(0)).toEqual([height - 1]);
  });
  it('parts red, green and blue in the parade and the histogram', () => {
    const parade = scopeOf('parade', flat([1, 0.5, 0]), 'rec709', 'picture');
    expect([0, 1, 2].map((k) => top(parade, k).y)).toEqual([0, 63, 127]);
    const histogram = scopeOf('histogram', flat([1, 0.5, 0]), 'rec709', 'picture');
    const luma = 0.2126 + 0.7152 * 0.5;
    expect([0, 1, 2, 3].map((k) => top(histogram, k).x)).toEqual([255, 128, 0, Math.floor(luma * 256)]);
  });
  it('counts what the matte selects, or what it does not, by α', () => {
    const picture = flat([0.5, 0.5, 0.5], 3, 1);
    picture.r[0] = 65535;
    const alpha = Float32Array.of(1, 0.25, 0);
    const sum = (part: 'picture' | 'inside' | 'outside') => {
      const [red] = scopeOf('histogram', picture, 'rec709', part, alpha).traces;
      return [red![255], red![128]];
    };
    expect(sum('picture')).toEqual([1, 2]);
    expect(sum('inside')).toEqual([1, 0.25]);
    expect(sum('outside')).toEqual([0, 1.75]);
  });
  it('leaves pixels of a large picture out evenly, in all columns', () => {
    const { traces, width } = scopeOf('waveform', flat([0.5, 0.5, 0.5], 960, 540), 'rec709', 'picture');
    const columns = Array.from({ length: width }, (_, x) =>
      traces[0]!.filter((_n, i) => i % width === x).some(Boolean),
    );
    expect(columns.every(Boolean)).toBe(true);
  });
});
