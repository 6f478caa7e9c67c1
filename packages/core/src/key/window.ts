import type { Window } from '../document/key.ts';

/**
 * A neutral has no hue, so a hue test cannot pass there: the factor fades in over this much OKLCh chroma, and the
 * random hues of a noisy grey never flicker in. About two just noticeable differences.
 */
export const HUE_FADE_CHROMA = 0.02;

/** 3t² − 2t³ on 0..1, flat outside. */
export function smoothstep(t: number): number {
  if (t <= 0) return 0;
  return t >= 1 ? 1 : t * t * (3 - 2 * t);
}

/** 1 at distance 0 or less from the core, 0 from `soft` on. A margin of 0 is a hard edge that belongs to the core. */
function fall(distance: number, soft: number): number {
  if (distance <= 0) return 1;
  return distance >= soft ? 0 : smoothstep(1 - distance / soft);
}

/** The window's factor at `x`, 0..1. */
export function windowAt(w: Window, x: number): number {
  if (!w.on) return 1;
  return x < w.lo ? fall(w.lo - x, w.softLo) : fall(x - w.hi, w.softHi);
}

/**
 * The factor of a window on hue. `lo` is 0..360 and `hi` ≥ `lo`, so a window across red is written 350..380.
 * Where the two margins meet on the far side of the circle the larger factor counts.
 */
export function hueWindowAt(w: Window, hueDeg: number): number {
  if (!w.on) return 1;
  const span = w.hi - w.lo;
  const turn = hueDeg - w.lo;
  const above = turn - 360 * Math.floor(turn / 360); // a floating remainder (%) costs ten times as much
  if (above <= span) return 1;
  return Math.max(fall(above - span, w.softHi), fall(360 - above, w.softLo));
}
