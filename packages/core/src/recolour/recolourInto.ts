import type { Triple } from '../colour/matrix3.ts';
import type { Lookup } from '../colour/lookupTable.ts';
import { gatheredLight, planeOf, type LinearPlanes } from '../colour/planes.ts';
import { blockOf, byBlocks } from '../kernels/blocks.ts';
import type { EdgeColours } from './edgeColours.ts';
import { kernelOf, type FinerProgram } from './finerProgram.ts';
import { repainted, type Program } from './program.ts';
import { MOST_OF_CHANNEL } from './sheen.ts';

/**
 * `picture += (recoloured(picture) − picture) · α · strength`, in linear light, in place; pixels where α is 0 are not
 * read or written. `root` is `cubeRootTable()`. At the pixels of `edge` the change is that of the piece's own colour
 * there, so that what is mixed in is recoloured no more than once. `sheen` is how
 * much of each pixel's luminance is sheen, for a program that tells it apart. Returns those own colours as recoloured.
 *
 * The result is written as what is linear of the program plus the *change* that the move makes to the cone response,
 * both cubes from the same tabulated root: with no move the change is exactly nothing. Straight back-conversion would
 * leave the table's 2e-7 in channels that are 0, which a display power law (infinite slope at black) blows up to
 * visible codes.
 */
export function recolourInto(
  picture: LinearPlanes,
  alpha: Float32Array,
  program: Program,
  root: Lookup,
  edge?: EdgeColours,
  sheen?: Float32Array,
): EdgeColours | undefined {
  const mixed = edge && gatheredLight(picture, edge.index);
  if (program.finer && !(program.sheen && sheen)) finerInto(picture, alpha, program.finer, program.strength);
  else if (program.sheen && sheen) repaintInto(picture, alpha, program, sheen);
  else if (!plainByKernel(picture, alpha, program)) plainInto(picture, alpha, program, root);
  if (!edge || !mixed) return undefined;
  const { light, own } = recolouredEdge(mixed, alpha, program, edge);
  for (let k = 0; k < edge.index.length; k++) {
    const i = edge.index[k]!;
    picture.r[i] = light.r[k]!;
    picture.g[i] = light.g[k]!;
    picture.b[i] = light.b[k]!;
  }
  return own;
}

/** `plainInto` in single precision, within 1e-5 of full scale (tested); false where there are no kernels. */
function plainByKernel({ r, g, b }: LinearPlanes, alpha: Float32Array, program: Program): boolean {
  const matrices = matricesOf(program);
  return byBlocks(
    [r, g, b, alpha],
    [
      [0, r],
      [1, g],
      [2, b],
    ],
    ({ recolour, floats }, n) =>
      recolour(n, blockOf(0), blockOf(1), blockOf(2), blockOf(3), program.strength, floats(matrices)),
  );
}

/** What the kernel of a plain recolour reads. */
export const matricesOf = ({ linear, toLms, between, fromLms }: Program): number[] => [
  ...linear,
  ...toLms,
  ...between,
  ...fromLms,
];

export function plainInto({ r, g, b }: LinearPlanes, alpha: Float32Array, program: Program, root: Lookup): void {
  const { linear: K, toLms: A, between: B, fromLms: C, strength } = program;
  for (let i = 0; i < alpha.length; i++) {
    const weight = alpha[i]! * strength;
    if (weight === 0) continue;
    const R = r[i]!;
    const G = g[i]!;
    const Bl = b[i]!;
    const l = root(A[0] * R + A[1] * G + A[2] * Bl);
    const m = root(A[3] * R + A[4] * G + A[5] * Bl);
    const s = root(A[6] * R + A[7] * G + A[8] * Bl);
    const l2 = B[0] * l + B[1] * m + B[2] * s;
    const m2 = B[3] * l + B[4] * m + B[5] * s;
    const s2 = B[6] * l + B[7] * m + B[8] * s;
    const dl = l2 * l2 * l2 - l * l * l;
    const dm = m2 * m2 * m2 - m * m * m;
    const ds = s2 * s2 * s2 - s * s * s;
    r[i] = R + (K[0] * R + K[1] * G + K[2] * Bl + C[0] * dl + C[1] * dm + C[2] * ds - R) * weight;
    g[i] = G + (K[3] * R + K[4] * G + K[5] * Bl + C[3] * dl + C[4] * dm + C[5] * ds - G) * weight;
    b[i] = Bl + (K[6] * R + K[7] * G + K[8] * Bl + C[6] * dl + C[7] * dm + C[8] * ds - Bl) * weight;
  }
}

/** The same with finer tools. */
function finerInto({ r, g, b }: LinearPlanes, alpha: Float32Array, finer: FinerProgram, strength: number): void {
  const kernel = kernelOf(finer);
  const next = new Float64Array(3);
  for (let i = 0; i < alpha.length; i++) {
    const weight = alpha[i]! * strength;
    if (weight === 0) continue;
    const R = r[i]!;
    const G = g[i]!;
    const B = b[i]!;
    next[0] = R;
    next[1] = G;
    next[2] = B;
    kernel(next);
    r[i] = R + (next[0] - R) * weight;
    g[i] = G + (next[1] - G) * weight;
    b[i] = B + (next[2] - B) * weight;
  }
}

/** The same where part of each pixel is sheen. */
function repaintInto({ r, g, b }: LinearPlanes, alpha: Float32Array, program: Program, sheen: Float32Array): void {
  for (let i = 0; i < alpha.length; i++) {
    const weight = alpha[i]! * program.strength;
    if (weight === 0) continue;
    const own = [r[i]!, g[i]!, b[i]!] as const;
    const next = repainted(program, own, sheen[i]!);
    r[i] = own[0] + (next[0] - own[0]) * weight;
    g[i] = own[1] + (next[1] - own[1]) * weight;
    b[i] = own[2] + (next[2] - own[2]) * weight;
  }
}

/** No more sheen than leaves something of every channel to the body. */
function leftToBody({ sheen }: Program, [r, g, b]: Triple, luminance: number): number {
  if (!sheen) return 0;
  const [er, eg, eb] = sheen.body.light;
  return Math.max(Math.min(luminance, MOST_OF_CHANNEL * Math.min(r / er, g / eg, b / eb)), 0);
}
/**
 * The pixels of an edge, of which `mixed` is the light before: what each becomes where the piece's own colour in it is
 * recoloured, and those own colours as recoloured. `alpha` is that of the whole picture.
 */
export function recolouredEdge(
  mixed: LinearPlanes,
  alpha: Float32Array,
  program: Program,
  edge: EdgeColours,
): { light: LinearPlanes; own: EdgeColours } {
  const own = { index: edge.index, r: edge.r.slice(), g: edge.g.slice(), b: edge.b.slice() };
  const isPlain = !program.finer && !program.sheen;
  const whole = new Float32Array(edge.index.length).fill(1);
  if (!isPlain || !plainByKernel(own, whole, program)) edgeBySamples(own, program, edge);
  const changed = (before: Float32Array, was: Float32Array, is: Float32Array) =>
    planeOf(before.length, (k) => before[k]! + (is[k]! - was[k]!) * alpha[edge.index[k]!]!);
  const light = {
    r: changed(mixed.r, edge.r, own.r),
    g: changed(mixed.g, edge.g, own.g),
    b: changed(mixed.b, edge.b, own.b),
  };
  if (edge.stray) takeStrayOut(light, edge, own, edge.stray);
  return { light, own };
}

/**
 * Takes out of the light of an edge what has strayed there of the old colour: as much as the recolour changes the
 * piece's own, and no more than has strayed. Of a colour that stays as it is nothing.
 */
function takeStrayOut(light: LinearPlanes, edge: EdgeColours, now: EdgeColours, stray: LinearPlanes): void {
  for (let k = 0; k < edge.index.length; k++) {
    const length = Math.hypot(stray.r[k]!, stray.g[k]!, stray.b[k]!);
    if (length === 0) continue;
    const change = Math.hypot(now.r[k]! - edge.r[k]!, now.g[k]! - edge.g[k]!, now.b[k]! - edge.b[k]!);
    const share = Math.min(change / length, 1);
    light.r[k]! -= share * stray.r[k]!;
    light.g[k]! -= share * stray.g[k]!;
    light.b[k]! -= share * stray.b[k]!;
  }
}

/** The own colours of an edge, recoloured, in place. */
function edgeBySamples({ r, g, b }: LinearPlanes, program: Program, { sheen }: EdgeColours): void {
  const { strength } = program;
  for (let k = 0; k < r.length; k++) {
    const own = [r[k]!, g[k]!, b[k]!] as const;
    const next = repainted(program, own, sheen ? leftToBody(program, own, sheen[k]!) : 0);
    r[k] = own[0] + (next[0] - own[0]) * strength;
    g[k] = own[1] + (next[1] - own[1]) * strength;
    b[k] = own[2] + (next[2] - own[2]) * strength;
  }
}
