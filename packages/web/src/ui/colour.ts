// Measured and required colours as the screens name and show them.
import type { Requirement, Shot, SightingMeasurements } from '@mellow/contract';
import {
  ciede2000,
  d65LabFrom,
  hexFromLab,
  hexFromLinear709,
  inShotLight,
  labFromLinear709,
  lchFromLab,
  shotColour,
  type Judgement,
  type Lab,
} from '@mellow/core';

export const requiredLab = (requirement: Requirement): Lab => d65LabFrom(requirement.lab, requirement.illuminant);
/** The required colour, in the light of a shot where one is named: as it should be seen there. */
export const requiredHex = (requirement: Requirement | undefined, shot?: Pick<Shot, 'light'>): string | null =>
  requirement ? hexFromLab(inShotLight(shot?.light?.matrix, requiredLab(requirement))) : null;
export const meanHex = (frames: readonly { meanLinear: readonly number[] }[]): string | null => {
  const lab = shotColour(frames as never);
  return lab ? hexFromLab(lab) : null;
};
export const linearHex = (linear: readonly number[]): string => hexFromLinear709(linear);
/**
 * ΔE00 between the mean over a shot's frames, back in the reference light, and the requirement; undefined without
 * either.
 */
export function deltaEOf(
  frames: readonly { meanLinear: readonly [number, number, number] }[] | undefined,
  requirement: Requirement | undefined,
  shot: Pick<Shot, 'light'> | undefined,
): number | undefined {
  const lab = frames && shotColour(frames, shot?.light?.matrix);
  return lab && requirement ? ciede2000(lab, requiredLab(requirement)) : undefined;
}
export const toleranceOf = (requirement: Requirement | undefined, projectTolerance: number): number =>
  requirement?.tolerance ?? projectTolerance;

/** How a measured colour stands to the required one, as a glyph: it is the same wherever it is said. */
export const GLYPH = { matches: '✓', close: '≈', off: '✕' } as const satisfies Record<Judgement, string>;

/** Lighter than this is past any white there is. */
const WHITE = 100.5;
/** Lightness, chroma and hue in one line; a colour that no screen shows is said to be out of range. */
export function lchText(lab: Lab, hueDigits = 1): string {
  if (lab.L > WHITE) return 'out of range';
  const { L, C, hDeg } = lchFromLab(lab);
  return `L ${L.toFixed(1)} C ${C.toFixed(1)} h ${hDeg.toFixed(hueDigits)}°`;
}
/** Lab in one line, likewise. */
export const labText = ({ L, a, b }: Lab): string =>
  L > WHITE ? 'out of range' : [L, a, b].map((v) => v.toFixed(1)).join(' ');
/** What was measured of a sighting in a colourway. */
export const measuredOf = (
  measurements: readonly SightingMeasurements[],
  sightingId: string | undefined,
  colourwayId: string | undefined,
): SightingMeasurements | undefined =>
  measurements.find((m) => m.sightingId === sightingId && m.colourwayId === colourwayId);
type Measured = SightingMeasurements['frames'][number]['after'];
/** What of a measured colour is compared with a requirement: its body's where that is required and told apart. */
export const comparedWith = (requirement: Requirement | undefined, after: Measured): Measured =>
  requirement?.of === 'body' && after.body
    ? { ...after, meanLinear: after.body, lab: labFromLinear709(after.body) }
    : after;
/** Of a sighting, on each measured frame, what is compared with its requirement. */
export const afterOf = (measured: SightingMeasurements | undefined, requirement: Requirement | undefined) =>
  measured?.frames.map((f) => comparedWith(requirement, f.after));
