// The geometry of the swing: OKLab's a, b plane round its middle, hue round and chroma outward.
import type { Gain, Shift } from '@mellow/contract';
import {
  codeFromLinear,
  compile,
  FIELD_REACH,
  linear709FromOklab,
  NEUTRAL_FINER,
  NEUTRAL_RECIPE,
  NEUTRAL_SHIFT,
  oklchFromOklab,
  recolouredOklab,
  turnDeg,
  type Finer,
  type Oklab,
} from '@mellow/core';
import { polarMap } from '../../ui/polarMap.ts';

export const SIZE = 250;
export const MAP = polarMap(SIZE, 6);
const MOST_SATURATION = 4;
/** A colour with less chroma than this has no hue to turn: its saturation is reckoned as if it had this much. */
const LEAST_CHROMA = 1e-4;

/** What a match, hue bands and bend make of a colour, before it is shifted. */
export function matchedOklab(source: Oklab, match: Gain, { bands, bend }: Finer): Oklab {
  const finer = { ...NEUTRAL_FINER, bands, bend };
  return recolouredOklab(compile({ ...NEUTRAL_RECIPE, match, finer }), source);
}

/** Where a recipe takes a colour's hue and chroma: exposure and density change those too, but are not set here. */
export function swungTo(source: Oklab, { hueDeg, saturation }: Pick<Shift, 'hueDeg' | 'saturation'>): Oklab {
  const shift = { ...NEUTRAL_SHIFT, hueDeg, saturation };
  return recolouredOklab(compile({ ...NEUTRAL_RECIPE, shift }), source);
}
/** The shift that takes a colour to a place on the map; whole turns already made are kept, the short way from there. */
export function shiftTowards(
  source: Oklab,
  now: Shift,
  to: { a: number; b: number },
): Pick<Shift, 'hueDeg' | 'saturation'> {
  const from = oklchFromOklab(source);
  const target = oklchFromOklab({ L: 0, ...to });
  const hueDeg = now.hueDeg + turnDeg(from.hDeg + now.hueDeg, target.hDeg);
  const saturation = Math.round((target.C / Math.max(from.C, LEAST_CHROMA)) * 1000) / 1000;
  return { hueDeg: Math.round(hueDeg * 10) / 10, saturation: Math.min(saturation, MOST_SATURATION) };
}

/** Rounding past the gamut that still counts as inside it, linear light. */
const EDGE = 0.001;
const MAP_OPACITY = 130;
/** The map in true colours at a lightness, `SIZE × SIZE` RGBA; what the screen cannot show is left clear. */
export function hueMap(L: number): Uint8ClampedArray<ArrayBuffer> {
  const rgba = new Uint8ClampedArray(SIZE * SIZE * 4);
  for (let y = 0; y < SIZE; y++)
    for (let x = 0; x < SIZE; x++) {
      const { a, b } = MAP.colourAt(x + 0.5, y + 0.5);
      const rgb = linear709FromOklab({ L, a, b });
      if (Math.hypot(a, b) > FIELD_REACH || rgb.some((v) => v < -EDGE || v > 1 + EDGE)) continue;
      const codes = rgb.map((v) => 255 * codeFromLinear('srgb', Math.min(Math.max(v, 0), 1)));
      rgba.set([...codes, MAP_OPACITY], 4 * (y * SIZE + x));
    }
  return rgba;
}
