// The ways to recolour that are judged, each solved on the case's own frames to the true mean.
import {
  clippingOf,
  compile,
  findSheenBody,
  labFromLinear709,
  meanAfter,
  NEUTRAL_PROGRAM,
  NEUTRAL_RECIPE,
  NEUTRAL_TRIM,
  pieceSamples,
  recolourFrame,
  REFERENCE_LIGHT,
  sheenOf,
  sheenSamples,
  softenForGain,
  solveGain,
  solveShift,
  type Gain,
  type Lab,
  type LinearPlanes,
  type PieceSamples,
  type Program,
  type RecipeNumbers,
  type SheenBody,
  type Shift,
} from '../../packages/core/src/index.ts';
import { TABLES, type Case } from './stills.ts';

const joined = (parts: readonly PieceSamples[]): PieceSamples => {
  const of = (k: 'r' | 'g' | 'b' | 'weight') => Float32Array.from(parts.flatMap((p) => [...p[k]]));
  const sheen = parts[0]?.sheen && Float32Array.from(parts.flatMap((p) => [...p.sheen!]));
  return { r: of('r'), g: of('g'), b: of('b'), weight: of('weight'), sheen };
};
const samplesOf = ({ frames }: Case, body?: SheenBody): PieceSamples =>
  joined(
    frames.map(({ source, alpha }) => {
      const { width, height } = source.codes;
      const sheen = body && sheenOf(source.linear(), alpha, width, height, body, source.scale);
      return pieceSamples(source.linear(), alpha, clippingOf(source.codes), sheen)!;
    }),
  );
/** What tells sheen apart, as found on all frames. */
const bodyOf = ({ frames }: Case): SheenBody | undefined =>
  findSheenBody(
    frames.flatMap(({ source, alpha }) =>
      sheenSamples(source.linear(), alpha, source.codes.width, source.codes.height),
    ),
  );
/** The true mean of the same pixels: what is required. */
const trueMean = ({ frames }: Case): Lab => {
  const of = frames.map((f) => pieceSamples(f.truth, f.alpha, clippingOf(f.source.codes))!);
  return labFromLinear709(meanAfter(joined(of), NEUTRAL_PROGRAM, 'rec709'));
};
/** A gain as it is solved, and what a match does against its grain. */
function matched(of: Case, recipe: RecipeNumbers, body?: SheenBody): Program {
  const compiled = (match: Gain, softened = 0) => {
    const texture = { ...recipe.finer.texture, on: softened > 0, colourPx: softened };
    const numbers = { ...recipe, match, finer: { ...recipe.finer, texture } };
    return compile(numbers, REFERENCE_LIGHT, NEUTRAL_TRIM, body);
  };
  const { found } = solveGain(samplesOf(of, body), trueMean(of), 'rec709', REFERENCE_LIGHT, (gain) => compiled(gain));
  return compiled(found, softenForGain(found));
}
export const PROGRAMS = {
  'turn, saturation, density': (of: Case): Program => {
    const compiled = (shift: Shift) => compile({ ...NEUTRAL_RECIPE, shift });
    return compiled(solveShift(samplesOf(of), trueMean(of), 'rec709', compiled).found);
  },
  match: (of: Case): Program => matched(of, NEUTRAL_RECIPE),
  repaint: (of: Case): Program => matched(of, { ...NEUTRAL_RECIPE, repaint: { on: true, sheen: 1 } }, bodyOf(of)),
};
export type Method = keyof typeof PROGRAMS;

/** The case's frames, recoloured. */
export const recolouredStills = (of: Case, program: Program): LinearPlanes[] =>
  of.frames.map(({ source, alpha }) => recolourFrame(source, [{ layers: [], program }], TABLES, () => alpha).linear);
