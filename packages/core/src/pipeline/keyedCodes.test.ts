// A key straight from codes is the key of the picture's OKLab, to the bit.
import { expect, it } from 'vitest';
import type { Encoding } from '../colour/encoding.ts';
import type { RangeKey, Window } from '../document/key.ts';
import type { Layer } from '../document/layer.ts';
import { rangeKeyInto } from '../key/rangeKey.ts';
import { NEUTRAL_BALANCE } from '../light/balance.ts';
import { noiseOfCodes } from '../testing/codes.ts';
import { PLAIN_LAYER } from '../testing/layers.ts';
import { ownMatte } from './frameMatte.ts';
import { rangeKeyOfCodesInto } from './keyedCodes.ts';
import { makeTables, sourceFrame } from './sourceFrame.ts';

const tables = makeTables();
const window = (lo: number, hi: number, soft: number): Window => ({ on: true, lo, hi, softLo: soft, softHi: soft });
const KEY: RangeKey = {
  hue: window(300, 420, 30),
  chroma: window(0.05, 0.4, 0.05),
  lightness: { ...window(0.3, 0.8, 0.1), on: false },
};

it.each<[Encoding, number, number]>([
  ['rec709', 1, 1],
  ['rec709', 67, 62],
  ['rec2020', 93, 61],
  ['slog3', 4099, 2],
])('%s, %i × %i pixels', (encoding, width, height) => {
  for (const Plane of [Uint8Array, Uint16Array]) {
    const codes = noiseOfCodes(Plane, width, height, 3);
    const [own, reference] = [new Float32Array(width * height), new Float32Array(width * height)];
    expect(rangeKeyOfCodesInto(own, codes, KEY, encoding, tables.decode)).toBe(true);
    rangeKeyInto(reference, sourceFrame(codes, encoding, 1, tables).oklab(), KEY);
    expect(own).toEqual(reference);
    if (own.length > 1) expect(own.filter((a) => a > 0 && a < 1).length).toBeGreaterThan(own.length / 50);
  }
});

it('reads the picture that a layer reads: as it came in, balanced, or as floats', () => {
  const codes = noiseOfCodes(Uint16Array, 40, 30, 5);
  const layer: Layer & { kind: 'range' } = { ...PLAIN_LAYER, kind: 'range', key: KEY, picks: [] };
  const balance = { ...NEUTRAL_BALANCE, exposureStops: 1, warmthMired: 30 };
  const balanced = () => sourceFrame(codes, 'rec709', 1, tables, { balance });
  const ofPlanes = (source: ReturnType<typeof balanced>, reads: 'balanced' | 'unbalanced') => {
    const out = new Float32Array(1200);
    rangeKeyInto(out, source.oklab(reads), KEY);
    return out;
  };
  const plain = ofPlanes(sourceFrame(codes, 'rec709', 1, tables), 'balanced');
  expect(ownMatte(sourceFrame(codes, 'rec709', 1, tables), layer)).toEqual(plain);
  expect(ownMatte(balanced(), { ...layer, reads: 'unbalanced' })).toEqual(plain);
  expect(ownMatte(balanced(), layer)).toEqual(ofPlanes(balanced(), 'balanced'));
  expect(ownMatte(balanced(), layer)).not.toEqual(plain);
  const [r, g, b] = [codes.r, codes.g, codes.b].map((plane) => Float32Array.from(plane, (v) => v / 65535));
  const floats = sourceFrame({ ...codes, r: r!, g: g!, b: b! }, 'rec709', 1, tables);
  const own = ownMatte(floats, layer);
  expect(own.every((a, i) => Math.abs(a - plain[i]!) < 1e-4)).toBe(true);
});
