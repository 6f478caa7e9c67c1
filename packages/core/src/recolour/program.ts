import type { Texture } from '../document/finer.ts';
import type { Gain, RecipeNumbers, SheenBody, Shift, Trim } from '../document/recipe.ts';
import type { Encoding } from '../colour/encoding.ts';
import { gainMatrix } from '../colour/cat16.ts';
import { IDENTITY, inverse, multiply, scaled, transform, type Matrix3, type Triple } from '../colour/matrix3.ts';
import {
  LINEAR_709_FROM_LMS,
  linear709FromOklab,
  LMS_FROM_LINEAR_709,
  LMS_ROOT_FROM_OKLAB,
  OKLAB_FROM_LMS_ROOT,
  oklabFromLinear709,
  type Oklab,
} from '../colour/oklab.ts';
import {
  compileFiner,
  compileOutside,
  compileTexture,
  kernelOf,
  type FinerProgram,
  type OutsideProgram,
} from './finerProgram.ts';
import {
  combinedShift,
  gainFromDensity,
  gainFromStops,
  isNeutral,
  isNeutralGain,
  NEUTRAL_RECIPE,
  NEUTRAL_TRIM,
} from './shift.ts';

/**
 * A recolour ready to run: what a recipe, the light of the shot and the trim of the sighting come to. Pictures, spill,
 * the swing, matching and measuring run this and know nothing of recipes, so that the maths of a recolour stands once.
 *
 * All that is linear in light is one 3×3. A shift's move of hue and chroma is linear between the cube roots of the cone
 * response: one more 3×3 there, whose change comes back by a third. Without a light and gains all of it is one 3×3 in
 * OKLab.
 */
export interface Program {
  /** Changes nothing, whatever the strength. */
  readonly isNeutral: boolean;
  readonly strength: number;
  /** All of the program but for the move of hue and chroma, on linear BT.709. */
  readonly linear: Matrix3;
  /** From linear BT.709 to the cone response of the exposed colour in the reference light; roots are taken after it. */
  readonly toLms: Matrix3;
  /** Between the roots. */
  readonly between: Matrix3;
  /** From the change of the cone response (cubes) back to linear BT.709, density and the shot's light in it. */
  readonly fromLms: Matrix3;
  /**
   * All of it as one 3×3 on OKLab; undefined where it is none: in another light than the reference's, or with gains.
   */
  readonly oklab: Matrix3 | undefined;
  /** Where sheen is told apart: by what, and the factor on what is put back. */
  readonly sheen: { readonly body: SheenBody; readonly kept: number } | undefined;
  /** All of it where a finer tool is at work: the matrices above then stand for nothing. */
  readonly finer?: FinerProgram;
  /** Softened or sharpened inside the matte, after all else. */
  readonly texture?: Texture;
  /** What is done where no matte selects anything. */
  readonly outside?: OutsideProgram;
}

/** A shot's light as it differs from the reference shot's: a 3×3 on linear BT.709. */
export type Light = Matrix3;
export const REFERENCE_LIGHT: Light = IDENTITY;

/** The turn of hue and factor on chroma, as a matrix on OKLab. */
function moveOf({ hueDeg, saturation }: Shift): Matrix3 {
  const turn = (hueDeg * Math.PI) / 180;
  const [cos, sin] = [Math.cos(turn) * saturation, Math.sin(turn) * saturation];
  return [1, 0, 0, 0, cos, -sin, 0, sin, cos];
}
const matrixOf = ({ long, middle, short }: Gain) => gainMatrix([long, middle, short]);

/**
 * Compiles a recipe for one sighting. The recipe is stated in the light of the reference shot: colours go there, are
 * matched, shifted and trimmed, and come back into the `light` of their own shot. `encoding`: the shot's, whose gamut
 * the guard keeps to.
 */
export function compile(
  { match, repaint, shift, finer: tools, strength }: RecipeNumbers,
  light: Light = REFERENCE_LIGHT,
  trim: Trim = NEUTRAL_TRIM,
  body?: SheenBody,
  encoding: Encoding = 'rec709',
): Program {
  const whole = combinedShift(shift, trim.shift);
  const exposure = gainFromStops(whole.exposureStops);
  const density = gainFromDensity(whole.density);
  const matched =
    isNeutralGain(match) && light === REFERENCE_LIGHT ? IDENTITY : multiply(matrixOf(match), inverse(light));
  const back = isNeutralGain(trim.gain) ? light : multiply(light, matrixOf(trim.gain));
  const sheen = repaint.on && body && body.confidence > 0 ? { body, kept: repaint.sheen } : undefined;
  const finer = compileFiner(tools, whole, matched, back, encoding);
  const texture = compileTexture(tools);
  const outside = compileOutside(tools);
  const isOklab = !finer && matched === IDENTITY && back === REFERENCE_LIGHT;
  const isPlain = isNeutral(whole) && isNeutralGain(match) && isNeutralGain(trim.gain);
  return {
    isNeutral: isPlain && !finer && !texture && (!sheen || sheen.kept === 1),
    strength,
    linear: scaled(isOklab ? IDENTITY : multiply(back, matched), exposure * density),
    toLms: scaled(isOklab ? LMS_FROM_LINEAR_709 : multiply(LMS_FROM_LINEAR_709, matched), exposure),
    between: multiply(LMS_ROOT_FROM_OKLAB, multiply(moveOf(whole), OKLAB_FROM_LMS_ROOT)),
    fromLms: scaled(isOklab ? LINEAR_709_FROM_LMS : multiply(back, LINEAR_709_FROM_LMS), density),
    // a gain on light is its cube root on all three of L, a, b
    oklab: isOklab ? scaled(moveOf(whole), Math.cbrt(exposure * density)) : undefined,
    sheen,
    ...(finer && { finer }),
    ...(texture && { texture }),
    ...(outside && { outside }),
  };
}

/** Changes nothing. */
export const NEUTRAL_PROGRAM: Program = compile(NEUTRAL_RECIPE);

/** One colour in linear BT.709 light, recoloured at full strength; may leave the gamut, nothing is clamped. */
export function recoloured(program: Program, rgb: Triple): [number, number, number] {
  if (program.finer) {
    const out = Float64Array.from(rgb);
    kernelOf(program.finer)(out);
    return [out[0]!, out[1]!, out[2]!];
  }
  const { linear, toLms, between, fromLms } = program;
  const cone = transform(toLms, rgb);
  const root: Triple = [Math.cbrt(cone[0]), Math.cbrt(cone[1]), Math.cbrt(cone[2])];
  const moved = transform(between, root);
  const change: Triple = [moved[0] ** 3 - root[0] ** 3, moved[1] ** 3 - root[1] ** 3, moved[2] ** 3 - root[2] ** 3];
  const plain = transform(linear, rgb);
  const back = transform(fromLms, change);
  return [plain[0] + back[0], plain[1] + back[1], plain[2] + back[2]];
}

/**
 * The same of a colour of which `sheen` (luminance) is sheen: the rest is recoloured, and the sheen put back, in the
 * light's colour.
 */
export function repainted(program: Program, rgb: Triple, sheen: number): [number, number, number] {
  if (!program.sheen || sheen === 0) return recoloured(program, rgb);
  const { light } = program.sheen.body;
  const body: Triple = [rgb[0] - sheen * light[0], rgb[1] - sheen * light[1], rgb[2] - sheen * light[2]];
  const next = recoloured(program, body);
  const back = program.sheen.kept * sheen;
  return [next[0] + back * light[0], next[1] + back * light[1], next[2] + back * light[2]];
}

/** The same in OKLab. */
export function recolouredOklab(program: Program, lab: Oklab): Oklab {
  if (!program.oklab) return oklabFromLinear709(recoloured(program, linear709FromOklab(lab)));
  const [L, a, b] = transform(program.oklab, [lab.L, lab.a, lab.b]);
  return { L, a, b };
}
