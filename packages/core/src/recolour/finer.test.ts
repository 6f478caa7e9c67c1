// Each finer tool against its definition, and against what is published where something is.
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { clampToCodes, ENCODING_NAMES, pastEnds } from '../colour/encoding.ts';
import { linear709FromOklab, oklabFromLinear709, oklabFromOklch, oklchFromOklab } from '../colour/oklab.ts';
import { linearFromSrgb, srgbFromLinear } from '../colour/srgb.ts';
import { cubeRootTable } from '../colour/oklabPlanes.ts';
import { inverse, transform, type Matrix3, type Triple } from '../colour/matrix3.ts';
import { xyzFromLinear709 } from '../colour/xyz.ts';
import { BAND_HUES } from '../document/finer.ts';
import { whiteMatrix } from '../light/balance.ts';
import { toolProgram, tools } from '../testing/finer.ts';
import { shiftProgram } from '../testing/recipes.ts';
import { curveOf } from './curves.ts';
import { hueCurve } from './hueBands.ts';
import { flatHueCurve, NEUTRAL_BANDS, NEUTRAL_FINER, NEUTRAL_PRIMARIES, STRAIGHT_CURVE } from './neutralFiner.ts';
import { compile, recoloured } from './program.ts';
import { recolourInto } from './recolourInto.ts';
import { NEUTRAL_RECIPE, NEUTRAL_TRIM } from './shift.ts';

const TEAL: Triple = [0.02, 0.22, 0.24];
const light = fc.float({ min: Math.fround(0.001), max: 1, noNaN: true });
const colour = fc.tuple(light, light, light);
const near = (got: readonly number[], wanted: readonly number[], digits = 6) =>
  got.forEach((v, i) => expect(v).toBeCloseTo(wanted[i]!, digits));
const lch = (rgb: Triple) => oklchFromOklab(oklabFromLinear709(rgb));
const all = (v: number) => ({ red: v, green: v, blue: v });

describe('finer tools', () => {
  it('that are off, or on and neutral, leave the plain program', () => {
    const neutral = compile({ ...NEUTRAL_RECIPE, finer: NEUTRAL_FINER });
    const on = tools({ primaries: {}, bands: {}, bend: {}, dye: {}, tone: {}, channels: {}, texture: {}, outside: {} });
    expect(compile({ ...NEUTRAL_RECIPE, finer: on })).toEqual(neutral);
    const off = { ...NEUTRAL_FINER, dye: { on: false, concentration: 3 } };
    expect(compile({ ...NEUTRAL_RECIPE, finer: off })).toEqual(neutral);
  });
  it.each([
    { primaries: { tint: 1 } },
    { bands: { hue: { ...flatHueCurve(0), '90': 5 } } },
    { bend: { first: { on: true, a: 0.1, b: 0, da: 0.01, db: 0 } } },
    { dye: { concentration: 1.1 } },
    { tone: { middle: { at: 0.5, to: 0.55 } } },
    { channels: { blue: { ...STRAIGHT_CURVE, middle: { at: 0.5, to: 0.6 } } } },
    { texture: { sharpen: 0.2 } },
    { guard: { knee: 0.7 } },
  ])('make a recipe one that changes something: %o', (set) => expect(toolProgram(set).isNeutral).toBe(false));
  it('do the same on a picture as on one colour, by α and strength', () => {
    const program = toolProgram({ dye: { concentration: 2 }, primaries: { warmthMired: 20 } }, { strength: 0.5 });
    const picture = {
      r: Float32Array.of(0.02, 0.02, 0.3),
      g: Float32Array.of(0.22, 0.22, 0.2),
      b: Float32Array.of(0.24, 0.24, 0.1),
    };
    recolourInto(picture, Float32Array.of(0, 0.5, 1), program, cubeRootTable());
    const own = [TEAL, [0.3, 0.2, 0.1] as Triple];
    const [teal, rust] = own.map((rgb) => recoloured(program, rgb));
    near([picture.r[0]!, picture.g[0]!, picture.b[0]!], TEAL, 7);
    near(
      [picture.r[1]!, picture.g[1]!, picture.b[1]!],
      TEAL.map((v, i) => v + 0.25 * (teal![i]! - v)),
    );
    near(
      [picture.r[2]!, picture.g[2]!, picture.b[2]!],
      own[1]!.map((v, i) => v + 0.5 * (rust![i]! - v)),
    );
  });
  it('are carried into the shot’s light and stay under its trim', () => {
    const warm: Matrix3 = [1.2, 0.05, 0, 0.02, 0.95, 0.01, 0, 0.03, 0.6];
    const recipe = { ...NEUTRAL_RECIPE, finer: tools({ dye: { concentration: 1.5 } }) };
    const gain = { long: 2, middle: 2, short: 2 };
    const there = recoloured(compile(recipe, warm, { ...NEUTRAL_TRIM, gain }), transform(warm, TEAL));
    near(
      transform(inverse(warm), there),
      TEAL.map((v) => 2 * v ** 1.5),
    );
  });
  it('keep a shift beside them', () => {
    const shift = { exposureStops: 0.3, hueDeg: 80, saturation: 1.2, density: 0.1 };
    const both = toolProgram({ primaries: { exposureStops: 0.5 } }, { shift });
    near(recoloured(both, TEAL), recoloured(shiftProgram({ ...shift, exposureStops: 0.8 }), TEAL));
  });
});

describe('primaries', () => {
  const by = (set: Partial<typeof NEUTRAL_PRIMARIES>, rgb: Triple) => recoloured(toolProgram({ primaries: set }), rgb);
  it('are the ASC CDL on sRGB codes, as OpenColorIO 2.1.2 computes it (its CDLTransform, without clamping)', () => {
    const set = {
      slope: { red: 1.15, green: 0.92, blue: 1.3 },
      offset: { red: 0.03, green: -0.04, blue: 0.01 },
      power: { red: 0.9, green: 1.2, blue: 1.05 },
      saturation: 0.7,
    };
    for (const [codes, wanted] of OPEN_COLOR_IO)
      near(by(set, codes.map(linearFromSrgb) as never).map(srgbFromLinear), wanted, 5);
  });
  it('lift exposure by stops and each channel by its own gain', () => {
    near(by({ exposureStops: 1 }, TEAL), [0.04, 0.44, 0.48]);
    near(by({ gain: { red: 2, green: 1, blue: 0.5 } }, TEAL), [0.04, 0.22, 0.12]);
  });
  it('tint white across the daylight locus by thousandths of Duv, at its luminance', () => {
    const uv = (rgb: Triple) => {
      const [X, Y, Z] = xyzFromLinear709(rgb);
      const d = X + 15 * Y + 3 * Z;
      return [(4 * X) / d, (6 * Y) / d] as const;
    };
    const [from, green, magenta] = [0, 10, -10].map((tint) => transform(whiteMatrix(0, tint), [0.5, 0.5, 0.5]));
    const off = (to: Triple) => Math.hypot(uv(to)[0] - uv(from!)[0], uv(to)[1] - uv(from!)[1]);
    expect(off(green!)).toBeCloseTo(0.01, 5);
    expect(off(magenta!)).toBeCloseTo(0.01, 5);
    expect(green![1]).toBeGreaterThan(Math.max(green![0], green![2]));
    expect(magenta![1]).toBeLessThan(Math.min(magenta![0], magenta![2]));
    expect(xyzFromLinear709(green!)[1]).toBeCloseTo(0.5, 3);
    // across it, not along: a right angle with what warmth does
    const warm = uv(transform(whiteMatrix(1, 0), [0.5, 0.5, 0.5]));
    const along = [warm[0] - uv(from!)[0], warm[1] - uv(from!)[1]] as const;
    const across = [uv(green!)[0] - uv(from!)[0], uv(green!)[1] - uv(from!)[1]] as const;
    const cos = (along[0] * across[0] + along[1] * across[1]) / Math.hypot(...along) / Math.hypot(...across);
    expect(Math.abs(cos)).toBeLessThan(0.02);
  });
});
/** Codes, and what OpenColorIO 2.1.2 makes of them. */
const OPEN_COLOR_IO: readonly (readonly [Triple, Triple])[] = [
  [
    [0.2, 0.5, 0.7],
    [0.3228245, 0.3617506, 0.7559004],
  ],
  [
    [0.9, 0.1, 0.35],
    [0.8241894, 0.1035208, 0.396643],
  ],
  [
    [0.05, 0.6, 0.02],
    [0.1820151, 0.4173581, 0.1252104],
  ],
];

describe('hue bands', () => {
  it('pass through their handles, meet round the circle and stay between them', () => {
    const curve = Object.fromEntries(BAND_HUES.map((h, i) => [`${h}`, (i * 7) % 5])) as never;
    const at = hueCurve(curve);
    BAND_HUES.forEach((h, i) => expect(at(h)).toBeCloseTo((i * 7) % 5, 12));
    expect(at(360)).toBeCloseTo(at(0), 12);
    expect(at(-15)).toBeCloseTo(at(345), 12);
    const values = Array.from({ length: 3600 }, (_, i) => at(i / 10));
    expect(Math.min(...values)).toBeGreaterThanOrEqual(0);
    expect(Math.max(...values)).toBeLessThanOrEqual(4);
  });
  const teal = oklabFromOklch({ L: 0.6, C: 0.1, hDeg: 210 });
  const by = (bands: Partial<typeof NEUTRAL_BANDS>, lab = teal) =>
    oklabFromLinear709(recoloured(toolProgram({ bands }), linear709FromOklab(lab)));
  it('turn, saturate and darken the hue of a handle by its numbers', () => {
    const at = (base: number, v: number) => ({ ...flatHueCurve(base), '210': v });
    const turned = oklchFromOklab(by({ hue: at(0, 40) }));
    near([turned.L, turned.C, turned.hDeg], [0.6, 0.1, 250]);
    near([oklchFromOklab(by({ saturation: at(1, 0.5) })).C], [0.05]);
    const darker = by({ density: at(0, 0.3) });
    near([(darker.L / 0.6) ** 3], [10 ** -0.3]);
    near([oklchFromOklab(darker).hDeg], [210], 4);
  });
  it('leave hues past the next handle, and greys, as they are', () => {
    const bands = {
      hue: { ...flatHueCurve(0), '210': 40 },
      saturation: { ...flatHueCurve(1), '210': 2 },
      density: { ...flatHueCurve(0), '210': 0.5 },
    };
    for (const hDeg of [150, 240, 300, 20]) {
      const lab = oklabFromOklch({ L: 0.6, C: 0.1, hDeg });
      near(Object.values(by(bands, lab)), Object.values(lab));
    }
    near(recoloured(toolProgram({ bands }), [0.3, 0.3, 0.3]), [0.3, 0.3, 0.3]);
  });
});

describe('a bend', () => {
  const handle = { on: true, a: -0.08, b: -0.05, da: 0.03, db: -0.02 };
  const other = { on: true, a: -0.05, b: -0.08, da: 0, db: 0 };
  const by = (lab: { L: number; a: number; b: number }) =>
    oklabFromLinear709(recoloured(toolProgram({ bend: { first: handle, third: other } }), linear709FromOklab(lab)));
  it('takes each handle where it was pulled to, and holds the others and grey', () => {
    near(Object.values(by({ L: 0.6, a: -0.08, b: -0.05 })), [0.6, -0.05, -0.07]);
    near(Object.values(by({ L: 0.4, a: -0.05, b: -0.08 })), [0.4, -0.05, -0.08]);
    near(Object.values(by({ L: 0.6, a: 0, b: 0 })), [0.6, 0, 0]);
  });
  it('fades with distance: across the plane nothing moves', () => {
    const far = { L: 0.6, a: 0.12, b: 0.1 };
    const moved = by(far);
    expect(Math.hypot(moved.a - far.a, moved.b - far.b)).toBeLessThan(2e-3);
  });
  it('takes handles on one place for one', () => {
    const twice = toolProgram({ bend: { first: handle, second: { ...handle, da: -0.1 } } });
    const there = oklabFromLinear709(recoloured(twice, linear709FromOklab({ L: 0.6, a: -0.08, b: -0.05 })));
    near([there.a, there.b], [-0.05, -0.07]);
  });
});

it('dye follows Beer–Lambert: twice the dye passes the square of the light, white and black stay', () => {
  near(recoloured(toolProgram({ dye: { concentration: 2 } }), [0.5, 0.1, 0.9]), [0.25, 0.01, 0.81]);
  near(recoloured(toolProgram({ dye: { concentration: 2 } }), [1, 0, 1.4]), [1, 0, 1.4]);
  // the law as dyers use it: absorbances add, −log10 of 0.5 twice
  const [r] = recoloured(toolProgram({ dye: { concentration: 3 } }), [0.5, 0.5, 0.5]);
  expect(-Math.log10(r)).toBeCloseTo(3 * -Math.log10(0.5), 9);
});

describe('curves', () => {
  const lifted = { ...STRAIGHT_CURVE, middle: { at: 0.5, to: 0.7 } };
  it('take what is at a point to where it was dragged', () => {
    const grey = (L: number): Triple => [L ** 3, L ** 3, L ** 3];
    near(recoloured(toolProgram({ tone: lifted }), grey(0.5)), grey(0.7));
    const blue = toolProgram({ channels: { blue: lifted } });
    near(recoloured(blue, [0.1, 0.2, linearFromSrgb(0.5)]), [0.1, 0.2, linearFromSrgb(0.7)]);
  });
  it('keep hue and the ratio of chroma to lightness when the tone is bent', () => {
    const [before, after] = [lch(TEAL), lch(recoloured(toolProgram({ tone: lifted }), TEAL))];
    expect(after.hDeg).toBeCloseTo(before.hDeg, 3);
    expect(after.C / after.L).toBeCloseTo(before.C / before.L, 4);
    expect(after.L).toBeGreaterThan(before.L);
  });
  it('carry the tint of a dark colour only where they darken: lifted, it is mostly grain', () => {
    const dark = linear709FromOklab({ L: 0.02, a: 0.004, b: 0 });
    const up = toolProgram({ tone: { ...STRAIGHT_CURVE, black: { at: 0, to: 0.2 } } });
    const lab = oklabFromLinear709(recoloured(up, dark));
    expect(lab.L).toBeGreaterThan(0.2);
    expect(Math.hypot(lab.a, lab.b)).toBeLessThan(0.02);
    expect(Math.hypot(lab.a, lab.b)).toBeGreaterThan(0.004);
  });
  it('never fall, whatever is dragged past what', () => {
    const tangled = { ...STRAIGHT_CURVE, shadow: { at: 0.9, to: 0.8 }, middle: { at: 0.3, to: 0.1 } };
    const curve = curveOf(tangled);
    const values = Array.from({ length: 101 }, (_, i) => curve(i / 100));
    values.slice(1).forEach((v, i) => expect(v).toBeGreaterThanOrEqual(values[i]! - 1e-12));
  });
});

describe('the guard', () => {
  it.each(ENCODING_NAMES)('brings every colour that light has into %s, at its lightness and hue', (encoding) => {
    const isPast = pastEnds(encoding, 2e-3);
    const program = compile(
      { ...NEUTRAL_RECIPE, finer: tools({ guard: { knee: 0.8 } }) },
      undefined,
      undefined,
      undefined,
      encoding,
    );
    fc.assert(
      fc.property(
        fc.record({
          L: fc.double({ min: 0.1, max: 0.95, noNaN: true }),
          C: fc.double({ min: 0, max: 0.5, noNaN: true }),
          hDeg: fc.double({ min: 0, max: 360, noNaN: true }),
        }),
        (own) => {
          const after = recoloured(program, linear709FromOklab(oklabFromOklch(own)));
          expect(isPast(...after)).toBe(false);
          const lab = oklabFromLinear709(after);
          const wanted = oklabFromOklch({ ...own, C: Math.hypot(lab.a, lab.b) });
          near(Object.values(lab), Object.values(wanted), 5);
        },
      ),
    );
  });
  it('leaves what is well within as it is', () => {
    const guarded = toolProgram({ guard: { knee: 0.8 } });
    near(recoloured(guarded, [0.3, 0.25, 0.2]), [0.3, 0.25, 0.2], 9);
  });
  it('keeps more of a colour’s steps than cutting off does', () => {
    const guarded = toolProgram({ guard: { knee: 0.8 } });
    const clamp = clampToCodes('rec709');
    const vivid = [0.28, 0.32, 0.36].map((C) => linear709FromOklab(oklabFromOklch({ L: 0.6, C, hDeg: 200 })));
    const chroma = (rgb: Triple) => lch(rgb).C;
    const after = vivid.map((rgb) => chroma(recoloured(guarded, rgb)));
    expect(after[0]).toBeLessThan(after[1]!);
    expect(after[1]).toBeLessThan(after[2]!);
    const turned = Math.abs(lch(clamp(vivid[2]!)).hDeg - 200);
    expect(turned).toBeGreaterThan(3);
  });
});

it('every colour changes without a jump: neighbours stay neighbours under all tools at once', () => {
  const everything = toolProgram({
    primaries: { tint: 5, saturation: 1.2, offset: all(0.02) },
    bands: { hue: { ...flatHueCurve(0), '210': 30 }, density: { ...flatHueCurve(0), '180': 0.3 } },
    bend: { first: { on: true, a: -0.1, b: -0.05, da: 0.02, db: 0.02 } },
    dye: { concentration: 1.3 },
    tone: { middle: { at: 0.5, to: 0.6 } },
    channels: { red: { ...STRAIGHT_CURVE, light: { at: 0.75, to: 0.7 } } },
    guard: { knee: 0.8 },
  });
  fc.assert(
    fc.property(colour, (rgb) => {
      const [a, b] = [recoloured(everything, rgb), recoloured(everything, [rgb[0] + 1e-5, rgb[1], rgb[2]])];
      return a.every((v, i) => Number.isFinite(v) && Math.abs(v - b[i]!) < 5e-3);
    }),
  );
});
