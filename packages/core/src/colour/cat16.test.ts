// CAT16 against colorjs.io 0.7 (its CATs.js), and what gains are made of.
import { CATs } from 'colorjs.io/src/CATs.js';
import { describe, expect, it } from 'vitest';
import { CAT16, cat16FromLinear709, gainBetween, gainMatrix, linear709FromCat16 } from './cat16.ts';
import { IDENTITY, inverse, multiply, transform } from './matrix3.ts';
import { LINEAR_709_FROM_XYZ, XYZ_FROM_LINEAR_709 } from './xyz.ts';

const theirs = (CATs as Record<string, { toCone_M: number[][]; fromCone_M: number[][] }>).CAT16!;

describe('CAT16', () => {
  it('has the matrix of colorjs.io, and its inverse', () => {
    expect([...CAT16]).toEqual(theirs.toCone_M.flat());
    inverse(CAT16).forEach((v, i) => expect(v).toBeCloseTo(theirs.fromCone_M.flat()[i]!, 9));
  });
  it('goes to the cone response and back', () => {
    linear709FromCat16(cat16FromLinear709([0.2, 0.5, 0.03])).forEach((v, i) =>
      expect(v).toBeCloseTo([0.2, 0.5, 0.03][i]!, 12),
    );
  });
});

describe('a gain', () => {
  it('scales the three responses, as an adaptation of that scale does', () => {
    const [from, to] = [theirs.fromCone_M.flat(), theirs.toCone_M.flat()];
    const scaled = [1.2, 1, 0.7].flatMap((k, row) => to.slice(3 * row, 3 * row + 3).map((v) => k * v));
    const adapted = multiply(from as never, scaled as never);
    const wanted = multiply(LINEAR_709_FROM_XYZ, multiply(adapted, XYZ_FROM_LINEAR_709));
    gainMatrix([1.2, 1, 0.7]).forEach((v, i) => expect(v).toBeCloseTo(wanted[i]!, 9));
    expect(gainMatrix([1, 1, 1])).toBe(IDENTITY);
  });
  it('takes one colour to another', () => {
    const [teal, plum] = [
      [0.045, 0.24, 0.235],
      [0.13, 0.035, 0.11],
    ] as const;
    transform(gainMatrix(gainBetween(teal, plum)), teal).forEach((v, i) => expect(v).toBeCloseTo(plum[i]!, 9));
    expect(gainBetween([0, 0, 0], plum)).toEqual([1, 1, 1]);
  });
});
