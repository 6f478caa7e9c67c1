import { labFromLinear709 } from '../colour/lab.ts';
import { linear709FromOklab, oklabFromOklch } from '../colour/oklab.ts';
import { clampToCodes, type Encoding } from '../colour/encoding.ts';
import type { Gain } from '../document/recipe.ts';
import { solveGain, type PieceSamples } from './match.ts';
import { recoloured, type Light, type Program } from './program.ts';

/** Directions of hue that are tried, and halvings of chroma in each. */
const [HUES, HALVINGS] = [24, 5];
const MOST_CHROMA = 0.32;

/** A mean that needs more of the piece cut off than this is no match. */
const MOST_CUT_OFF = 0.25;
/** Light past an end of the encoding that counts as cut off. */
const SLACK = 0.01;
/** The share of the samples of which the encoding cuts something off. */
function cutOff({ r, g, b }: PieceSamples, program: Program, encoding: Encoding): number {
  const clamp = clampToCodes(encoding);
  let n = 0;
  for (let i = 0; i < r.length; i++) {
    const rgb = recoloured(program, [r[i]!, g[i]!, b[i]!]);
    const held = clamp(rgb);
    if (rgb.some((v, c) => Math.abs(v - held[c]!) > SLACK)) n++;
  }
  return n / r.length;
}

/**
 * What a piece can be matched to at one lightness (OKLab L): for hues all round, the most chroma to which a gain takes
 * its mean within `tolerance` (ΔE00), with no more than a quarter of its
 * pixels cut off by the encoding. OKLab
 * a and b of the outline, in the order of hue, in the shot's own light. 0 where no chroma can be had.
 */
export function reachOutline(
  samples: PieceSamples,
  lightness: number,
  encoding: Encoding,
  light: Light,
  tolerance: number,
  program: (gain: Gain) => Program,
): { a: number; b: number }[] {
  const isReached = (C: number, hDeg: number) => {
    const rgb = linear709FromOklab(oklabFromOklch({ L: lightness, C, hDeg }));
    const { deltaE, found } = solveGain(samples, labFromLinear709(rgb), encoding, light, program);
    return deltaE <= tolerance && cutOff(samples, program(found), encoding) <= MOST_CUT_OFF;
  };
  return Array.from({ length: HUES }, (_, k) => {
    const hDeg = (k * 360) / HUES;
    let [low, high] = [0, MOST_CHROMA];
    for (let i = 0; i < HALVINGS; i++) {
      const C = (low + high) / 2;
      if (isReached(C, hDeg)) low = C;
      else high = C;
    }
    const { a, b } = oklabFromOklch({ L: lightness, C: low, hDeg });
    return { a, b };
  });
}
