import { describe, expect, it } from 'vitest';
import { linear709FromCodes } from '../colour/encoding.ts';
import { shifted } from '../testing/shifted.ts';
import { shiftProgram } from '../testing/recipes.ts';
import { recipeCube } from './recipeCube.ts';
import { throughLook } from './lookInto.ts';

const shift = { hueDeg: 70, saturation: 0.8, density: 0.2, exposureStops: 0 };

describe('a recipe as a table', () => {
  it('holds at its entries what the formulas say', () => {
    const { cube } = recipeCube('Turn', shiftProgram(shift), 'srgb', 5);
    for (const [r, g, b] of [
      [1, 2, 3],
      [4, 1, 0],
      [2, 2, 4],
    ] as const) {
      const wanted = shifted(shift, linear709FromCodes('srgb', [r / 4, g / 4, b / 4]));
      const at = 3 * (r + 5 * g + 25 * b);
      const found = linear709FromCodes('srgb', [cube.values[at]!, cube.values[at + 1]!, cube.values[at + 2]!]);
      found.forEach((v, c) => expect(v).toBeCloseTo(wanted[c]!, 5));
    }
  });
  it('says how far it is off between them, less with more entries', () => {
    const [coarse, fine] = [17, 33].map((size) => recipeCube('Turn', shiftProgram(shift), 'srgb', size));
    expect(fine!.meanDeltaE).toBeLessThan(coarse!.meanDeltaE / 2);
    expect(fine!.meanDeltaE).toBeGreaterThan(0);
    expect(fine!.meanDeltaE).toBeLessThan(0.1);
    expect(fine!.worstDeltaE).toBeGreaterThan(fine!.meanDeltaE);
  });
  it('that changes nothing is exact', () => {
    const { worstDeltaE } = recipeCube('Nothing', shiftProgram({}), 'rec709', 9);
    expect(worstDeltaE).toBeLessThan(1e-3);
  });
});

describe('a picture through a look', () => {
  const grey = (codes: Uint8Array | Uint16Array | Float32Array) => ({
    width: codes.length,
    height: 1,
    r: codes,
    g: codes,
    b: codes,
  });
  // ASC CDL v1.2: out = (in × slope + offset)^power, worked by hand
  const cdl = {
    slope: [2, 1, 1] as [number, number, number],
    offset: [0, 0.12, 0] as [number, number, number],
    power: [1, 1, 2] as [number, number, number],
    saturation: 1,
  };
  it('is changed on its codes, of any depth', () => {
    const floats = throughLook(grey(new Float32Array([0.2, 0.9])), { cdl });
    expect([...floats.r, ...floats.g, ...floats.b].map((v) => +v.toFixed(4))).toEqual([
      0.4, 1.8, 0.32, 1.02, 0.04, 0.81,
    ]);
    const bytes = throughLook(grey(new Uint8Array([51, 204])), { cdl });
    expect([...bytes.r, ...bytes.g, ...bytes.b]).toEqual([102, 255, 82, 235, 10, 163]);
  });
  it('has its CDL before its table', () => {
    const double = { title: '', kind: '1D', size: 2, domain: { min: [0, 0, 0], max: [1, 1, 1] } } as const;
    const inverted = {
      ...double,
      domain: { min: [0, 0, 0], max: [1, 1, 1] },
      values: new Float32Array([1, 1, 1, 0, 0, 0]),
    };
    const out = throughLook(grey(new Float32Array([0.2])), { cdl, table: inverted as never });
    expect(out.r[0]).toBeCloseTo(0.6, 6);
  });
});
