import { describe, expect, it } from 'vitest';
import { NEUTRAL_FINER } from '../recolour/neutralFiner.ts';
import { compile } from '../recolour/program.ts';
import { NEUTRAL_RECIPE } from '../recolour/shift.ts';
import { shiftProgram } from '../testing/recipes.ts';
import { recipeCdl } from './recipeCdl.ts';

describe('a recipe as an ASC CDL', () => {
  it('is found where it is one: the primaries of each channel', () => {
    const primaries = {
      ...NEUTRAL_FINER.primaries,
      on: true,
      slope: { red: 1.2, green: 0.9, blue: 1 },
      offset: { red: 0.02, green: 0, blue: -0.03 },
      power: { red: 1, green: 1.3, blue: 0.8 },
    };
    const program = compile({ ...NEUTRAL_RECIPE, finer: { ...NEUTRAL_FINER, primaries } });
    const { cdl, worstDeltaE } = recipeCdl(program, 'srgb');
    expect(worstDeltaE).toBeLessThan(0.05);
    cdl.slope.forEach((v, c) => expect(v).toBeCloseTo([1.2, 0.9, 1][c]!, 3));
    cdl.offset.forEach((v, c) => expect(v).toBeCloseTo([0.02, 0, -0.03][c]!, 3));
    cdl.power.forEach((v, c) => expect(v).toBeCloseTo([1, 1.3, 0.8][c]!, 3));
    expect(cdl.saturation).toBeCloseTo(1, 3);
  });
  it('of nothing is neutral, and misses nothing', () => {
    const { cdl, worstDeltaE } = recipeCdl(shiftProgram({}), 'rec709');
    expect([...cdl.slope, ...cdl.offset, ...cdl.power].map((v) => Math.round(v * 1e5) / 1e5)).toEqual([
      1, 1, 1, 0, 0, 0, 1, 1, 1,
    ]);
    expect(worstDeltaE).toBeLessThan(1e-3);
  });
  it('is far off where hues are turned: there it cannot be one', () => {
    const { meanDeltaE, worstDeltaE } = recipeCdl(
      shiftProgram({ hueDeg: 70, saturation: 1, density: 0, exposureStops: 0 }),
      'rec709',
    );
    expect(meanDeltaE).toBeGreaterThan(5);
    expect(worstDeltaE).toBeGreaterThan(meanDeltaE);
  });
});
