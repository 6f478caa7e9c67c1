import type { Encoding } from '../colour/encoding.ts';
import { IDENTITY, multiply, type Matrix3 } from '../colour/matrix3.ts';
import { LINEAR_709_FROM_LMS, LMS_FROM_LINEAR_709, LMS_ROOT_FROM_OKLAB, OKLAB_FROM_LMS_ROOT } from '../colour/oklab.ts';
import type { Bands, PlaneBend, Curve, Finer, Primaries, Texture, FinerTool } from '../document/finer.ts';
import type { Shift } from '../document/recipe.ts';
import { bendOf } from './bend.ts';
import { channelsOf, toneOf } from './curves.ts';
import { dyeOf } from './dye.ts';
import { guardOf } from './guard.ts';
import { bandsOf } from './hueBands.ts';
import { isAtWork, isNeutralBands, isNeutralPrimaries } from './neutralFiner.ts';
import { cdlOf, primariesOf, primaryMatrix, type InPlace } from './primaries.ts';
import { gainFromDensity, gainFromStops } from './shift.ts';

/**
 * A recolour with finer tools, ready to run: plain numbers, of which `kernelOf` makes tables once. Only the tools that
 * are at work are in it.
 */
export interface FinerProgram {
  /** Into the reference light, matched, with the primaries' linear part: a 3×3 on linear BT.709. */
  readonly first: Matrix3;
  readonly primaries?: Primaries;
  readonly bands?: Bands;
  readonly bend?: PlaneBend;
  readonly shift: Shift;
  readonly dye?: number;
  readonly tone?: Curve;
  readonly channels?: Finer['channels'];
  /** The trim's gain, and back into the shot's light. */
  readonly last: Matrix3;
  readonly guard?: { knee: number; encoding: Encoding };
}
/** What is done outside every matte. */
export interface OutsideProgram {
  readonly primaries?: Primaries;
  readonly bands?: Bands;
}

/** The tools that work on one colour at a time; the others need the picture. */
const POINTWISE = ['primaries', 'bands', 'bend', 'dye', 'tone', 'channels', 'guard'] as const satisfies FinerTool[];

/** Of the finer tools, what works on one colour at a time; undefined where none is at work. */
export function compileFiner(
  finer: Finer,
  shift: Shift,
  matched: Matrix3,
  last: Matrix3,
  encoding: Encoding,
): FinerProgram | undefined {
  const has = Object.fromEntries(POINTWISE.map((name) => [name, isAtWork(name, finer[name])])) as Record<
    (typeof POINTWISE)[number],
    boolean
  >;
  if (!POINTWISE.some((name) => has[name])) return undefined;
  const { primaries, bands, bend, dye, tone, channels, guard } = finer;
  return {
    first: has.primaries ? multiply(primaryMatrix(primaries), matched) : matched,
    ...(has.primaries && { primaries }),
    ...(has.bands && { bands }),
    ...(has.bend && { bend }),
    shift,
    ...(has.dye && { dye: dye.concentration }),
    ...(has.tone && { tone }),
    ...(has.channels && { channels }),
    last,
    ...(has.guard && { guard: { knee: guard.knee, encoding } }),
  };
}
export function compileOutside({ outside }: Finer): OutsideProgram | undefined {
  if (!isAtWork('outside', outside)) return undefined;
  const { primaries, bands } = outside;
  return {
    ...(!isNeutralPrimaries(primaries) && { primaries }),
    ...(!isNeutralBands(bands) && { bands }),
  };
}
export const compileTexture = ({ texture }: Finer): Texture | undefined =>
  isAtWork('texture', texture)
    ? { softenPx: texture.softenPx, colourPx: texture.colourPx, sharpen: texture.sharpen }
    : undefined;

function matrixInPlace(m: Matrix3): InPlace | undefined {
  if (m === IDENTITY) return undefined;
  return (v) => {
    const x = v[0]!;
    const y = v[1]!;
    const z = v[2]!;
    v[0] = m[0] * x + m[1] * y + m[2] * z;
    v[1] = m[3] * x + m[4] * y + m[5] * z;
    v[2] = m[6] * x + m[7] * y + m[8] * z;
  };
}
/** Steps on OKLab, as one on linear light. */
function inOklab(steps: readonly ((lab: Float64Array) => void)[]): InPlace {
  const toCone = matrixInPlace(LMS_FROM_LINEAR_709)!;
  const toLab = matrixInPlace(OKLAB_FROM_LMS_ROOT)!;
  const toRoot = matrixInPlace(LMS_ROOT_FROM_OKLAB)!;
  const toLight = matrixInPlace(LINEAR_709_FROM_LMS)!;
  return (v) => {
    toCone(v);
    for (let c = 0; c < 3; c++) v[c] = Math.cbrt(v[c]!);
    toLab(v);
    for (const step of steps) step(v);
    toRoot(v);
    for (let c = 0; c < 3; c++) v[c] = v[c]! ** 3;
    toLight(v);
  };
}
/** Turn, saturation, and the factor on light of exposure and density (a cube root on all three of L, a, b). */
function shiftInOklab({ hueDeg, saturation, exposureStops, density }: Shift): (lab: Float64Array) => void {
  const light = Math.cbrt(gainFromStops(exposureStops) * gainFromDensity(density));
  const turn = (hueDeg * Math.PI) / 180;
  const [cos, sin] = [Math.cos(turn) * saturation * light, Math.sin(turn) * saturation * light];
  return (lab) => {
    const a = lab[1]!;
    const b = lab[2]!;
    lab[0] = lab[0]! * light;
    lab[1] = cos * a - sin * b;
    lab[2] = sin * a + cos * b;
  };
}

const isThere = <T>(step: T | undefined): step is T => step !== undefined;
function stepsOf(program: FinerProgram): InPlace[] {
  const { first, primaries, bands, bend, shift, dye, tone, channels, last, guard } = program;
  const moves = [bands && bandsOf(bands), bend && bendOf(bend), shiftInOklab(shift)].filter(isThere);
  return [
    matrixInPlace(first),
    primaries && cdlOf(primaries),
    // without a dye between them the tone curve takes its place in the same round
    inOklab(dye === undefined && tone ? [...moves, toneOf(tone)] : moves),
    dye === undefined ? undefined : dyeOf(dye),
    dye === undefined || !tone ? undefined : inOklab([toneOf(tone)]),
    channels && channelsOf(channels),
    matrixInPlace(last),
    guard && inOklab([guardOf(guard.encoding, guard.knee)]),
  ].filter(isThere);
}

const inOrder =
  (steps: readonly InPlace[]): InPlace =>
  (rgb) => {
    for (const step of steps) step(rgb);
  };
const kernels = new WeakMap<object, InPlace>();
function remembered(program: object, make: () => InPlace): InPlace {
  const known = kernels.get(program);
  if (known) return known;
  const made = make();
  kernels.set(program, made);
  return made;
}
/** The program as a function on one colour of linear BT.709 light, in place; its tables are made once. */
export const kernelOf = (program: FinerProgram): InPlace => remembered(program, () => inOrder(stepsOf(program)));
export const outsideKernelOf = (program: OutsideProgram): InPlace =>
  remembered(program, () =>
    inOrder(
      [program.primaries && primariesOf(program.primaries), program.bands && inOklab([bandsOf(program.bands)])].filter(
        isThere,
      ),
    ),
  );
