// The ways to recolour that are judged, each solved on the case's own frames to the true mean.
import {
  clippingOf,
  compile,
  labFromLinear709,
  meanAfter,
  NEUTRAL_PROGRAM,
  NEUTRAL_RECIPE,
  pieceSamples,
  recolourFrame,
  REFERENCE_LIGHT,
  solveGain,
  solveShift,
  type Lab,
  type LinearPlanes,
  type PieceSamples,
  type Program,
} from '../../packages/core/src/index.ts';
import { TABLES, type Case } from './stills.ts';

const joined = (parts: readonly PieceSamples[]): PieceSamples => {
  const of = (k: keyof PieceSamples) => Float32Array.from(parts.flatMap((p) => [...p[k]]));
  return { r: of('r'), g: of('g'), b: of('b'), weight: of('weight') };
};
const samplesOf = ({ frames }: Case): PieceSamples =>
  joined(frames.map((f) => pieceSamples(f.source.linear(), f.alpha, clippingOf(f.source.codes))!));
/** The true mean of the same pixels: what is required. */
export const trueMean = ({ frames }: Case): Lab => {
  const of = frames.map((f) => pieceSamples(f.truth, f.alpha, clippingOf(f.source.codes))!);
  return labFromLinear709(meanAfter(joined(of), NEUTRAL_PROGRAM, 'rec709'));
};
export const PROGRAMS = {
  'turn, saturation, density': (of: Case): Program => {
    const compiled = (shift: Parameters<Parameters<typeof solveShift>[3]>[0]) => compile({ ...NEUTRAL_RECIPE, shift });
    return compiled(solveShift(samplesOf(of), trueMean(of), 'rec709', compiled).found);
  },
  match: (of: Case): Program => {
    const compiled = (match: Parameters<Parameters<typeof solveGain>[4]>[0]) => compile({ ...NEUTRAL_RECIPE, match });
    return compiled(solveGain(samplesOf(of), trueMean(of), 'rec709', REFERENCE_LIGHT, compiled).found);
  },
};
export type Method = keyof typeof PROGRAMS;

/** The case's frames, recoloured. */
export const recolouredStills = (of: Case, program: Program): LinearPlanes[] =>
  of.frames.map(({ source, alpha }) => recolourFrame(source, [{ layers: [], program }], TABLES, () => alpha).linear);
