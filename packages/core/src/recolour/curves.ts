import { monotoneCubic } from '../colour/monotoneCubic.ts';
import { linearFromSrgb, srgbFromLinear } from '../colour/srgb.ts';
import { CURVE_POINTS, type Curve, type Rgb } from '../document/finer.ts';
import { isStraight } from './neutralFiner.ts';
import type { InPlace } from './primaries.ts';

/** Points of a curve lie at least this far apart: nearer, a hand could make a step of it. */
export const LEAST_STEP = 0.01;

/** The curve as a function; points are taken in their order, one that does not lie past its neighbour next to it. */
export function curveOf(curve: Curve): (x: number) => number {
  const at: number[] = [];
  const to: number[] = [];
  for (const name of CURVE_POINTS) {
    at.push(Math.max(curve[name].at, (at.at(-1) ?? -Infinity) + LEAST_STEP));
    // monotone: dark never becomes lighter than what was lighter
    to.push(Math.max(curve[name].to, to.at(-1) ?? -Infinity));
  }
  return monotoneCubic(at, to);
}

const TABLE = 1024;
/** The curve tabulated on 0..1; past it it goes on as it ends. */
export function tableOf(curve: Curve): (x: number) => number {
  const exact = curveOf(curve);
  const values = Float64Array.from({ length: TABLE + 1 }, (_, i) => exact(i / TABLE));
  return (x) => {
    if (!(x >= 0 && x < 1)) return exact(x);
    const i = Math.floor(x * TABLE);
    return values[i]! + (x * TABLE - i) * (values[i + 1]! - values[i]!);
  };
}

/** Below this lightness a colour is lifted without all of its tint: mostly it is grain. */
const DARK = 0.05;
/**
 * The tone curve on OKLab in place. Chroma goes with lightness, as it does in more or less light on one paint, so that
 * hue and saturation stay.
 */
export function toneOf(curve: Curve): (lab: Float64Array) => void {
  const tone = tableOf(curve);
  return (lab) => {
    const L = lab[0]!;
    const next = Math.max(tone(L), 0);
    const tint = L > 0 ? Math.min(next / L, Math.max(1, next / DARK)) : 1;
    lab[0] = next;
    lab[1] = lab[1]! * tint;
    lab[2] = lab[2]! * tint;
  };
}

/** The curves of the channels, on sRGB codes (IEC 61966-2-1), in place. */
export function channelsOf({ red, green, blue }: Record<keyof Rgb, Curve>): InPlace {
  const curves = [red, green, blue].map((curve) => (isStraight(curve) ? undefined : tableOf(curve)));
  return (rgb) =>
    curves.forEach((curve, c) => {
      if (curve) rgb[c] = linearFromSrgb(curve(srgbFromLinear(rgb[c]!)));
    });
}
