import { describe, expect, it } from 'vitest';
import { linear709FromOklab, oklabFromOklch } from '../colour/oklab.ts';
import { clampToCodes } from '../colour/encoding.ts';
import type { PieceSamples } from './match.ts';
import { compile, REFERENCE_LIGHT } from './program.ts';
import { reachOutline } from './reach.ts';
import { NEUTRAL_RECIPE } from './shift.ts';

const of = (values: readonly number[]): PieceSamples => {
  const plane = Float32Array.from(values);
  return { r: plane, g: plane, b: plane, weight: new Float32Array(plane.length).fill(1) };
};
const reach = (samples: PieceSamples, L = 0.6) =>
  reachOutline(samples, L, 'rec709', REFERENCE_LIGHT, 1, (match) => compile({ ...NEUTRAL_RECIPE, match }));
const chromas = (outline: { a: number; b: number }[]) => outline.map(({ a, b }) => Math.hypot(a, b));

describe('what can be reached', () => {
  it('from a flat grey is what the encoding holds, and no more', () => {
    const outline = reach(of([0.2]));
    expect(outline).toHaveLength(24);
    const clamp = clampToCodes('rec709');
    outline.forEach((_, k) => {
      const hDeg = k * 15;
      const at = (C: number) => linear709FromOklab(oklabFromOklch({ L: 0.6, C, hDeg }));
      const isHeld = (C: number) => clamp(at(C)).every((v, i) => Math.abs(v - at(C)[i]!) < 1e-6);
      // a little more may pass within the tolerance; a little less must be reached
      const C = chromas(outline)[k]!;
      expect(isHeld(C * 0.75)).toBe(true);
      expect(isHeld(C + 0.06)).toBe(false);
    });
  });
  it('is less from a piece with bright highlights: they are cut off first', () => {
    const [flat, lit] = [reach(of([0.2])), reach(of([0.05, 0.05, 0.9]))];
    const sum = (outline: { a: number; b: number }[]) => chromas(outline).reduce((s, v) => s + v, 0);
    expect(sum(lit)).toBeLessThan(0.8 * sum(flat));
  });
  it('is nothing at a lightness that the piece’s range cannot have', () =>
    expect(Math.max(...chromas(reach(of([0.001, 1]), 0.99)))).toBe(0));
});
