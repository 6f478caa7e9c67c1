import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cubeAt } from './cubeAt.ts';
import { CubeError, cubeOf, cubeText, readCube, type Cube } from './cube.ts';

const through = (cube: Cube, codes: readonly number[]): number[] => {
  const rgb = Float64Array.from(codes);
  cubeAt(cube)(rgb);
  return [...rgb];
};
/** Bent in each channel, with cross-talk: no two corners of a cell lie alike. */
const bent = cubeOf('Bent', 5, (rgb) => {
  const [r, g, b] = [rgb[0]!, rgb[1]!, rgb[2]!];
  rgb[0] = 0.9 * r * r + 0.1 * b;
  rgb[1] = Math.sqrt(g) * 0.8 + 0.15 * r * b;
  rgb[2] = b * (1 - 0.3 * r) + 0.05 * g;
});

describe('a table', () => {
  // what `ociochecklut` of OpenColorIO 2.1.2 prints for the text of this table, a colour in each of the six tetrahedra
  it.each([
    [
      [0.1, 0.2, 0.3],
      [0.0525, 0.325625, 0.29875],
    ],
    [
      [0.8, 0.35, 0.6],
      [0.645, 0.539399, 0.47125],
    ],
    [
      [0.33, 0.9, 0.51],
      [0.16125, 0.782628, 0.504],
    ],
    [
      [0.15, 0.4, 0.95],
      [0.12875, 0.521911, 0.925],
    ],
    [
      [0.7, 0.9, 0.2],
      [0.47, 0.779628, 0.2],
    ],
    [
      [0.6, 0.1, 0.9],
      [0.4275, 0.2425, 0.74],
    ],
  ])('of three dimensions makes of %j what OpenColorIO does', (codes, wanted) => {
    through(readCube(cubeText(bent)), codes).forEach((v, c) => expect(v).toBeCloseTo(wanted[c]!, 5));
  });
  it('of one dimension, with a domain of its own, does too', () => {
    const text = 'LUT_1D_SIZE 4\nDOMAIN_MIN -0.25 0 0\nDOMAIN_MAX 1.25 1 1\n0 0 0\n0.2 0.5 0.1\n0.9 0.6 0.4\n1 1 0.9\n';
    // the same program's values
    for (const [codes, wanted] of [
      [
        [0.1, 0.2, 0.3],
        [0.14, 0.3, 0.09],
      ],
      [
        [0.8, 0.35, 0.6],
        [0.91, 0.505, 0.34],
      ],
    ] as const)
      through(readCube(text), codes).forEach((v, c) => expect(v).toBeCloseTo(wanted[c]!, 6));
  });
  it('is clamped to its domain, and takes what is no number for its least', () => {
    expect(through(bent, [7, -3, 0.5])).toEqual(through(bent, [1, 0, 0.5]));
    expect(through(bent, [NaN, 0, 0.5])).toEqual(through(bent, [0, 0, 0.5]));
  });
  it('that changes nothing gives every colour back', () => {
    const same = cubeOf('Same', 9, () => undefined);
    fc.assert(
      fc.property(fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { minLength: 3, maxLength: 3 }), (codes) => {
        through(same, codes).forEach((v, c) => expect(v).toBeCloseTo(codes[c]!, 6));
      }),
    );
  });
});

describe('the text of a table', () => {
  it('is read as it was written', () => {
    const back = readCube(cubeText(bent));
    expect([back.title, back.kind, back.size]).toEqual(['Bent', '3D', 5]);
    expect(Math.max(...back.values.map((v, i) => Math.abs(v - bent.values[i]!)))).toBeLessThanOrEqual(5.1e-7);
  });
  it('may have comments, blank lines, any line ends and its keywords in any order', () => {
    const text = '# made by hand\r\n\r\nDOMAIN_MAX 2 2 2\rLUT_1D_SIZE 2\nTITLE "A b"\n0 0 0\n  1e0 +1. .5\n';
    expect(readCube(text)).toMatchObject({ title: 'A b', size: 2, domain: { max: [2, 2, 2] } });
  });
  it.each([
    ['', 'It states no LUT_1D_SIZE or LUT_3D_SIZE.'],
    ['0 0 0', 'Line 1: numbers come before'],
    ['LUT_3D_SIZE 1', 'Line 1: LUT_3D_SIZE must be a whole number from 2 to 256.'],
    ['LUT_3D_SIZE 1e9', 'Line 1: LUT_3D_SIZE must be a whole number from 2 to 256.'],
    ['LUT_1D_SIZE 2\nLUT_3D_SIZE 2', 'Line 2: a second size'],
    ['LUT_1D_SIZE 2\n0 0 0\n1 1', 'Line 3: an entry must be 3 numbers, not 2.'],
    ['LUT_1D_SIZE 2\n0 0 0\n1 one 1', 'Line 3: “one” is no number.'],
    ['LUT_1D_SIZE 2\n0 0 0\n1 1e999 1', 'Line 3: “1e999” is no number.'],
    ['LUT_1D_SIZE 2\n0 0 0\n', 'Line 3: the table ends after 1 of 2 entries.'],
    ['LUT_1D_SIZE 2\n0 0 0\n1 1 1\n2 2 2', 'Line 4: more than the 2 entries stated.'],
    ['LUT_1D_SIZE 2\n0 0 0\nTITLE "late"\n1 1 1', 'Line 3: “TITLE” comes after the table has begun.'],
    ['SHAPER 3', 'Line 1: “SHAPER” is not known.'],
    ['LUT_1D_SIZE 2\nDOMAIN_MIN 1 0 0\n0 0 0\n1 1 1', 'DOMAIN_MIN must be less than DOMAIN_MAX'],
  ])('%j is refused: %s', (text, said) => {
    expect(() => readCube(text)).toThrow(CubeError);
    expect(() => readCube(text)).toThrow(said);
  });
  it('whatever it holds is read or refused with the line, never anything else', () => {
    const word = fc.constantFrom(
      'LUT_1D_SIZE',
      'LUT_3D_SIZE',
      'TITLE',
      'DOMAIN_MIN',
      '2',
      '0.5',
      '-1e3',
      '"',
      '#',
      '1e',
    );
    const line = fc.array(fc.oneof(word, fc.string({ maxLength: 8 })), { maxLength: 5 }).map((w) => w.join(' '));
    const text = fc.array(line, { maxLength: 12 }).map((lines) => lines.join('\n'));
    fc.assert(
      fc.property(text, (input) => {
        try {
          const { values, size, kind } = readCube(input);
          expect(values.length).toBe(3 * (kind === '1D' ? size : size ** 3));
        } catch (error) {
          expect(error).toBeInstanceOf(CubeError);
        }
      }),
      { numRuns: 1000 },
    );
  });
});
