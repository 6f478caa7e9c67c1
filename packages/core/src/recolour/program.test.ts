import type { Shift } from '../document/recipe.ts';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cubeRootTable } from '../colour/oklabPlanes.ts';
import { inverse, transform, type Matrix3 } from '../colour/matrix3.ts';
import { linear709FromOklab, oklabFromLinear709 } from '../colour/oklab.ts';
import { shifted } from '../testing/shifted.ts';
import { compile, recoloured, recolouredOklab, REFERENCE_LIGHT } from './program.ts';
import { recolourInto } from './recolourInto.ts';
import { combinedShift, NEUTRAL_GAIN, NEUTRAL_RECIPE, NEUTRAL_SHIFT } from './shift.ts';
import { removeSpillInto } from './spillInto.ts';

const turn: Shift = { exposureStops: 0.4, hueDeg: 75, saturation: 0.8, density: 0.12 };
const TEAL: [number, number, number] = [0.02, 0.22, 0.24];
const WARM: Matrix3 = [1.2, 0.05, 0, 0.02, 0.95, 0.01, 0, 0.03, 0.6];
const light = fc.float({ min: Math.fround(0.001), max: 1, noNaN: true });
const colour = fc.tuple(light, light, light);
const shift = fc.record({
  exposureStops: fc.float({ min: -2, max: 2, noNaN: true }),
  hueDeg: fc.float({ min: -720, max: 720, noNaN: true }),
  saturation: fc.float({ min: 0, max: 3, noNaN: true }),
  density: fc.float({ min: -1, max: 1, noNaN: true }),
});
const near = (got: readonly number[], wanted: readonly number[], by = 1e-6) =>
  got.forEach((v, i) => expect(Math.abs(v - wanted[i]!)).toBeLessThanOrEqual(by * Math.max(1, Math.abs(wanted[i]!))));

describe('a compiled recipe', () => {
  it('is the shift as it is defined, for any colour and any shift', () => {
    fc.assert(
      fc.property(colour, shift, (rgb, s) =>
        near(recoloured(compile({ ...NEUTRAL_RECIPE, shift: s, strength: 1 }), rgb), shifted(s, rgb)),
      ),
    );
  });
  it('does the same in OKLab', () => {
    fc.assert(
      fc.property(colour, shift, (rgb, s) => {
        const program = compile({ ...NEUTRAL_RECIPE, shift: s, strength: 1 });
        near(linear709FromOklab(recolouredOklab(program, oklabFromLinear709(rgb))), recoloured(program, rgb));
      }),
    );
  });
  it('knows when it changes nothing', () => {
    const neutral = (s: Partial<Shift>) =>
      compile({ ...NEUTRAL_RECIPE, shift: { ...NEUTRAL_SHIFT, ...s }, strength: 1 }).isNeutral;
    expect([neutral({}), neutral({ hueDeg: 360 }), neutral({ hueDeg: -720 })]).toEqual([true, true, true]);
    expect([neutral({ hueDeg: 1 }), neutral({ saturation: 0.9 }), neutral({ density: 0.1 })]).toEqual([
      false,
      false,
      false,
    ]);
    expect(neutral({ exposureStops: 0.1 })).toBe(false);
  });
  it('lays a trim on top: as one shift, and not neutral though the recipe is', () => {
    const trim: Shift = { exposureStops: -0.2, hueDeg: 5, saturation: 1.1, density: 0.03 };
    const trimmed = compile({ ...NEUTRAL_RECIPE, shift: turn, strength: 1 }, REFERENCE_LIGHT, {
      gain: NEUTRAL_GAIN,
      shift: trim,
    });
    near(recoloured(trimmed, TEAL), shifted(combinedShift(turn, trim), TEAL));
    expect(
      compile({ ...NEUTRAL_RECIPE, shift: NEUTRAL_SHIFT, strength: 1 }, REFERENCE_LIGHT, {
        gain: NEUTRAL_GAIN,
        shift: trim,
      }).isNeutral,
    ).toBe(false);
    expect(combinedShift(turn, NEUTRAL_SHIFT)).toEqual(turn);
    // stops, turns and densities add, factors multiply
    const other = { exposureStops: 0.25, hueDeg: -15, saturation: 0.5, density: 0.25 };
    expect(combinedShift({ exposureStops: 0.5, hueDeg: 75, saturation: 0.5, density: 0.5 }, other)).toEqual({
      exposureStops: 0.75,
      hueDeg: 60,
      saturation: 0.25,
      density: 0.75,
    });
  });
  it('recolours in the reference light: there and back again', () => {
    const program = compile({ ...NEUTRAL_RECIPE, shift: turn, strength: 1 }, WARM);
    near(recoloured(program, TEAL), transform(WARM, shifted(turn, transform(inverse(WARM), TEAL))));
    near(recoloured(compile({ ...NEUTRAL_RECIPE, shift: NEUTRAL_SHIFT, strength: 1 }, WARM), TEAL), TEAL);
  });
});

describe('a program over planes', () => {
  const plane = (v: number) => Float32Array.of(v, v, v);
  const picture = () => ({ r: plane(TEAL[0]), g: plane(TEAL[1]), b: plane(TEAL[2]) });
  it('is blended by α and strength in linear light, and leaves α 0 alone', () => {
    const out = picture();
    recolourInto(
      out,
      Float32Array.of(0, 0.5, 1),
      compile({ ...NEUTRAL_RECIPE, shift: turn, strength: 0.5 }),
      cubeRootTable(),
    );
    const full = shifted(turn, TEAL);
    const at = (i: number) => [out.r[i]!, out.g[i]!, out.b[i]!];
    expect(at(0)).toEqual([picture().r[0], picture().g[0], picture().b[0]]);
    near(
      at(1),
      TEAL.map((v, c) => v + (full[c]! - v) * 0.25),
      2e-6,
    );
    near(
      at(2),
      TEAL.map((v, c) => v + (full[c]! - v) * 0.5),
      2e-6,
    );
  });
  it('takes spill out to the colour of the surroundings, at the pixel’s own lightness', () => {
    const piece = oklabFromLinear709(TEAL);
    const map = {
      share: Float32Array.of(1, 0.5, 0),
      pieceA: plane(piece.a),
      pieceB: plane(piece.b),
      surroundA: plane(0.01),
      surroundB: plane(0.02),
    };
    const out = picture();
    removeSpillInto(out, map, 0.5);
    const lab = oklabFromLinear709([out.r[0]!, out.g[0]!, out.b[0]!]);
    near([lab.L, lab.a, lab.b], [piece.L, (piece.a + 0.01) / 2, (piece.b + 0.02) / 2], 1e-5);
  });
});
