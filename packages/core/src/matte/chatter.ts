import { markEdgeBand } from './edgeBand.ts';
import { carriedMatte } from './carriedMatte.ts';
import { motionBetween, type Moment } from './steady.ts';

/** Half width of the band round an outline, pixels of the full picture. */
const BAND_PX = 3;

/**
 * Chatter: the mean of |α − α of the frame before, carried along by the piece's motion| over a band round both
 * outlines, 0..1. `scale`: this size over the full resolution. Undefined where there is no outline or the motion cannot
 * be told.
 */
export function chatterBetween(before: Moment, now: Moment, scale: number): number | undefined {
  const { width, height, alpha } = now;
  const motion = motionBetween(now, before);
  if (!motion) return undefined;
  const was = carriedMatte(motion, before.alpha, width, height);
  const band = new Uint8Array(alpha.length);
  const radius = Math.max(Math.round(BAND_PX * scale), 1);
  markEdgeBand(band, alpha, width, height, radius);
  markEdgeBand(band, was, width, height, radius);
  let [sum, n] = [0, 0];
  for (let i = 0; i < alpha.length; i++) {
    if (band[i] === 0 || was[i]! < 0) continue;
    sum += Math.abs(alpha[i]! - was[i]!);
    n++;
  }
  return n === 0 ? undefined : sum / n;
}
