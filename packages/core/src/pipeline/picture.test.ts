import { describe, expect, it } from 'vitest';
import { linear709FromCodes } from '../colour/encoding.ts';
import { assertPicture, linearPlanesOf, maxCodeOf } from './picture.ts';
import { pictureFromRgba } from './rgba.ts';

describe('a picture of codes', () => {
  const bytes = (n: number) => new Uint8Array(n);
  it('has planes as long as it is large, of one type', () => {
    const whole = { width: 3, height: 2, r: bytes(6), g: bytes(6), b: bytes(6) };
    expect(() => assertPicture(whole)).not.toThrow();
    expect(() => assertPicture({ ...whole, g: bytes(5) })).toThrow('plane g holds 5 samples, 3 × 2 needs 6');
    expect(() => assertPicture({ ...whole, b: new Uint16Array(6) })).toThrow(
      'plane b has another sample type than plane r',
    );
  });
  it('knows its highest code by its type', () =>
    expect([bytes(1), new Uint16Array(1), new Float32Array(1)].map(maxCodeOf)).toEqual([255, 65535, 1]));
  it('is taken from a canvas without its alpha', () => {
    const rgba = Uint8ClampedArray.of(1, 2, 3, 4, 5, 6, 7, 8);
    const { r, g, b } = pictureFromRgba(rgba, 2, 1);
    expect([[...r], [...g], [...b]]).toEqual([
      [1, 5],
      [2, 6],
      [3, 7],
    ]);
  });
});

describe('its light', () => {
  const values = [0, 0.1, 0.5, 0.9, 1];
  it.each(['srgb', 'rec709', 'linear709', 'display-p3', 'rec2020'] as const)(
    'is the same from bytes, words and floats of the same values, %s',
    (encoding) => {
      const exact = values.map((v) => linear709FromCodes(encoding, [v, 0.5, 1 - v]));
      const of = (make: (values: number[]) => Float32Array | Uint8Array | Uint16Array) => {
        const [r, g, b] = [make(values), make(values.map(() => 0.5)), make(values.map((v) => 1 - v))];
        return linearPlanesOf({ width: values.length, height: 1, r, g, b }, encoding);
      };
      const furthest = ({ r, g, b }: { r: Float32Array; g: Float32Array; b: Float32Array }) =>
        Math.max(...exact.flatMap((e, i) => [r, g, b].map((plane, c) => Math.abs(plane[i]! - e[c]!))));
      expect(furthest(of((v) => Float32Array.from(v)))).toBeLessThan(1e-6);
      expect(furthest(of((v) => Uint16Array.from(v, (x) => Math.round(x * 65535))))).toBeLessThan(3e-5);
      expect(furthest(of((v) => Uint8Array.from(v, (x) => Math.round(x * 255))))).toBeLessThan(8e-3);
    },
  );
  it('of floats may lie outside 0 and 1 and is not cut off', () => {
    const plane = Float32Array.of(-0.25, 1.5);
    const { r } = linearPlanesOf({ width: 2, height: 1, r: plane, g: plane, b: plane }, 'linear709');
    expect([...r]).toEqual([-0.25, 1.5]);
  });
});
