import { ciede2000 } from '../colour/ciede2000.ts';
import { labFromLinear709, type Lab } from '../colour/lab.ts';
import type { Matrix3 } from '../colour/matrix3.ts';
import { inReferenceLight } from '../light/shotLight.ts';

/** How a measured colour stands to the required one. */
export type Judgement = 'matches' | 'close' | 'off';

/** `matches` up to the tolerance (ΔE00), `close` up to twice that, `off` above. */
export function judge(deltaE: number, tolerance: number): Judgement {
  if (deltaE <= tolerance) return 'matches';
  return deltaE <= 2 * tolerance ? 'close' : 'off';
}

/**
 * A shot's colour: the mean over its frames, taken in linear light as each frame's own mean is, and back in the
 * reference light where the shot's `light` is known. Undefined without frames.
 */
export function shotColour(
  frames: readonly { meanLinear: readonly [number, number, number] }[],
  light?: Matrix3,
): Lab | undefined {
  if (frames.length === 0) return undefined;
  const mean = (c: 0 | 1 | 2) => frames.reduce((sum, f) => sum + f.meanLinear[c], 0) / frames.length;
  return labFromLinear709(inReferenceLight(light, [mean(0), mean(1), mean(2)]));
}

/** Largest ΔE00 between a frame and its shot's colour; 0 for a single frame. */
export function drift(frames: readonly { lab: Lab; meanLinear: readonly [number, number, number] }[]): number {
  const mean = shotColour(frames);
  return mean ? frames.reduce((worst, f) => Math.max(worst, ciede2000(f.lab, mean)), 0) : 0;
}

/** Largest ΔE00 between any two of the colours; 0 for fewer than two. */
export function spread(colours: readonly Lab[]): number {
  let worst = 0;
  for (let i = 0; i < colours.length; i++)
    for (let j = i + 1; j < colours.length; j++) worst = Math.max(worst, ciede2000(colours[i]!, colours[j]!));
  return worst;
}
