// The small print of encoding and measuring, each by numbers worked by hand.
import { describe, expect, it } from 'vitest';
import { codesFromLinear709, ENCODING_NAMES, pastEnds } from '../colour/encoding.ts';
import { NEUTRAL_BALANCE } from '../light/balance.ts';
import { MEASURED_ALPHA, measurePiece } from '../measure/measurePiece.ts';
import { isLowCoverage, isMuchClipped, shotTrust } from '../measure/trust.ts';
import { codesFromEncoded } from './picture.ts';
import { clippingOf, measureSighting } from './measureSighting.ts';
import { recolourFrame, renderFrame } from './renderFrame.ts';
import { makeTables, sourceFrame } from './sourceFrame.ts';
import { shiftProgram } from '../testing/recipes.ts';
import { seededRandom } from '../testing/mattes.ts';

const tables = makeTables();
const flat = (n: number, ...rgb: [number, number, number]) => ({
  width: n,
  height: 1,
  r: new Uint8Array(n).fill(rgb[0]),
  g: new Uint8Array(n).fill(rgb[1]),
  b: new Uint8Array(n).fill(rgb[2]),
});

describe('codes from encoded values', () => {
  it('are the nearest, half way up, and end at either end of the range', () => {
    const codes = codesFromEncoded(new Uint8Array(6), Float32Array.of(100.4 / 255, 100.6 / 255, -0.2, 1.3, 0, 1));
    expect([...codes]).toEqual([100, 101, 0, 255, 0, 255]);
    expect([...codesFromEncoded(new Uint16Array(2), Float32Array.of(1000.4 / 65535, 1000.6 / 65535))]).toEqual([
      1000, 1001,
    ]);
  });
  it('stay as they are where the picture is of floats', () => {
    const encoded = Float32Array.of(-0.5, 1.5);
    expect(codesFromEncoded(new Float32Array(2), encoded)).toBe(encoded);
  });
});

it('a balanced frame is encoded everywhere, whether or not anything is selected', () => {
  const balance = { ...NEUTRAL_BALANCE, exposureStops: 1 };
  const source = sourceFrame(flat(4, 60, 60, 60), 'linear709', 1, tables, { balance });
  expect([...renderFrame(source, [], tables).codes.r]).toEqual([120, 120, 120, 120]);
  const plain = sourceFrame(flat(4, 60, 60, 60), 'linear709', 1, tables);
  expect([...renderFrame(plain, [], tables).codes.r]).toEqual([60, 60, 60, 60]);
});

describe('a pixel is clipped', () => {
  const isClipped = (...rgb: [number, number, number]) => clippingOf(flat(1, ...rgb))(0);
  it('where any channel is at the top', () =>
    expect([isClipped(255, 3, 3), isClipped(3, 255, 3), isClipped(3, 3, 255)]).toEqual([true, true, true]));
  it('where it is black in all three', () => expect(isClipped(0, 0, 0)).toBe(true));
  it('not where a channel is empty, nor just below the top', () =>
    expect([isClipped(0, 9, 0), isClipped(0, 0, 1), isClipped(254, 254, 254)]).toEqual([false, false, false]));
});

describe('a measurement', () => {
  const light = (...values: number[]) => ({
    r: Float32Array.from(values),
    g: Float32Array.from(values),
    b: Float32Array.from(values),
  });
  it('is of the pixels with α of 0.9 and more, weighted by it', () => {
    expect(MEASURED_ALPHA).toBe(0.9);
    const alpha = Float32Array.of(0.899, 0.901, 1);
    const found = measurePiece(light(0.9, 0.1, 0.3), alpha, () => false)!;
    expect(found.pixels).toBe(2);
    expect(found.meanLinear[0]).toBeCloseTo((0.901 * 0.1 + 0.3) / 1.901, 6);
  });
  it('counts what it leaves out for being clipped among the pixels of the piece only', () => {
    const found = measurePiece(light(0.1, 0.2, 0.3, 0.4), Float32Array.of(1, 1, 1, 0), (i) => i === 0 || i === 3)!;
    expect([found.pixels, found.clippedShare]).toEqual([2, expect.closeTo(1 / 3, 6)]);
  });
});

describe('a balanced frame', () => {
  const codes = () => flat(6, 30, 120, 200);
  const balance = { ...NEUTRAL_BALANCE, exposureStops: 1, slope: [1.2, 1, 0.9] as [number, number, number] };
  const plain = sourceFrame(codes(), 'rec709', 1, tables);
  it('is read before or after its balance, as a key asks, and its source stays as it was', () => {
    const frame = sourceFrame(codes(), 'rec709', 1, tables, { balance });
    // the balance first: what it does must not reach the source's own light
    const balanced = [frame.linear().r[0]!, frame.oklab().L[0]!, frame.matteSource.encoded('balanced').g[0]!];
    const own = [frame.oklab('unbalanced'), plain.oklab()].map((o) => [o.L[0], o.a[0], o.b[0]]);
    expect(own[0]).toEqual(own[1]);
    const [encoded, wanted] = [frame.matteSource.encoded('unbalanced'), plain.matteSource.encoded('unbalanced')];
    expect([encoded.r[0], encoded.g[0], encoded.b[0]]).toEqual([wanted.r[0], wanted.g[0], wanted.b[0]]);
    expect(balanced[0]!).toBeGreaterThan(2 * plain.linear().r[0]!);
    expect(balanced[1]!).toBeGreaterThan(plain.oklab().L[0]!);
    expect(balanced[2]!).toBeGreaterThan(wanted.g[0]!);
    expect(frame.matteSource.oklab('balanced')).toBe(frame.oklab());
  });
  it('is touched everywhere, one without a balance only where something is at work', () => {
    const touched = (frame: typeof plain) => [...recolourFrame(frame, [], tables).touched];
    expect(touched(sourceFrame(codes(), 'rec709', 1, tables, { balance }))).toEqual([0, 1, 2, 3, 4, 5]);
    expect(touched(plain)).toEqual([]);
  });
});

describe('what the recolour clips', () => {
  const measured = (exposureStops: number) => {
    const codes = flat(4, 100, 100, 100);
    codes.r.set([100, 100, 200, 200]);
    const source = sourceFrame(codes, 'linear709', 1, tables);
    const sighting = { layers: [], program: shiftProgram({ exposureStops }) };
    const alpha = Float32Array.of(1, 0.95, 1, 0.5);
    return measureSighting(
      source,
      recolourFrame(source, [sighting], tables, () => alpha),
      0,
    )!;
  };
  it('is the share of the piece’s pixels driven past the end', () => {
    // at + 1 stop code 200 becomes 400, code 100 becomes 200; the last pixel is not of the piece
    expect(measured(1).after.clippedShare).toBeCloseTo(1 / 3, 6);
    expect(measured(2).after.clippedShare).toBe(1);
    expect(measured(0).after.clippedShare).toBe(0);
  });
  it('is what falls below black as well as what rises past white, and no rounding', () => {
    const clippedAt = (saturation: number, code: number) => {
      const source = sourceFrame(flat(2, code, 40, 40), 'linear709', 1, tables);
      const sighting = { layers: [], program: shiftProgram({ saturation }) };
      const alpha = new Float32Array(2).fill(0.95);
      return measureSighting(
        source,
        recolourFrame(source, [sighting], tables, () => alpha),
        0,
      )!.after.clippedShare;
    };
    // a red at three times its saturation: its green and blue go below nothing
    expect([clippedAt(3, 120), clippedAt(1, 120), clippedAt(1, 254)]).toEqual([1, 0, 0]);
  });
  it('is told by the codes that light would have, in any encoding', () => {
    const random = seededRandom(8);
    for (const encoding of ENCODING_NAMES) {
      const isPast = pastEnds(encoding, 0.002);
      for (let k = 0; k < 500; k++) {
        const light = [0, 1, 2].map(() => 1.3 * random() - 0.1) as [number, number, number];
        const codes = codesFromLinear709(encoding, light);
        expect(isPast(...light)).toBe(codes.some((c) => c < -0.002 || c > 1.002));
      }
    }
  });
  it('does not count what was clipped in the source already', () => expect(measured(1).before.clippedShare).toBe(0));
});

describe('how far a colour can be trusted', () => {
  const frame = (coverage: number, resultClippedShare: number) => ({ coverage, resultClippedShare });
  it('is the mean coverage and the worst frame’s clipping', () =>
    expect(shotTrust([frame(0.4, 0), frame(0.8, 0.3)])).toEqual({ coverage: expect.closeTo(0.6, 9), clipped: 0.3 }));
  it('is unknown without frames', () => expect(shotTrust([])).toBeUndefined());
  it('is low below half, and much clipped from a twentieth', () => {
    expect([0.49, 0.5].map((coverage) => isLowCoverage({ coverage, clipped: 0 }))).toEqual([true, false]);
    expect([0.049, 0.05].map((clipped) => isMuchClipped({ coverage: 1, clipped }))).toEqual([false, true]);
  });
});
