// Why a sighting is off its requirement, in words, and what would mend it.
import type { Recipe, Requirement, Shot } from '@mellow/contract';
import { drift, isLowCoverage, isMuchClipped, shotTrust } from '@mellow/core';
import { afterOf, deltaEOf } from '../../ui/colour.ts';
import type { Sighted } from './sightings.ts';

const percent = (share: number): string => `${Math.round(share * 100)} %`;

interface Looked {
  sighted: Sighted;
  requirement: Requirement | undefined;
  tolerance: number;
  recipe: Recipe | undefined;
  referenceShotId: Shot['id'] | null;
  isTrimmed: boolean;
}

/** The most likely reasons first; none for a sighting that matches, or that is not measured. */
export function whyOff({ sighted, requirement, tolerance, recipe, referenceShotId, isTrimmed }: Looked): string[] {
  const { shot, sighting, measured } = sighted;
  const after = afterOf(measured, requirement);
  const deltaE = deltaEOf(after, requirement, shot);
  if (!sighting || !measured || !after || deltaE === undefined || deltaE <= tolerance) return [];
  if (!recipe) return ['Nothing recolours it yet: match it in the reference shot.'];
  const trust = shotTrust(measured.frames);
  const reasons: string[] = [];
  if (trust && isLowCoverage(trust))
    reasons.push(`Only about ${percent(trust.coverage)} of it is selected: widen its matte.`);
  if (shot.id !== referenceShotId && !shot.light) reasons.push('The shot’s light is not taken.');
  if (trust && isMuchClipped(trust))
    reasons.push(`${percent(trust.clipped)} of it is clipped: the encoding ends before the colour does.`);
  if (recipe.animated[shot.id]) reasons.push('The recipe has keyframes in this shot.');
  if (recipe.repaint.on && !sighting.body) reasons.push('Sheen is not told apart here: repaint it in this shot.');
  if (requirement?.of === 'body' && !measured.frames.some((f) => f.after.body))
    reasons.push('The colour is required of the body; sheen is not told apart here, and the mean is compared.');
  const wander = drift(after);
  if (wander > tolerance) reasons.push(`It drifts through the shot, by ${wander.toFixed(1)} (ΔE00).`);
  if (!isTrimmed) reasons.push('It has no trim: solve it.');
  return reasons;
}
