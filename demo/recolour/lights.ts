// How well a shot's light, found from a piece's own old colour, carries its new one: the true mean of the repainted
// suitcase in each shot, brought back to the light of the first. By CAT16, as the application does it, and by factors
// on linear BT.709 beside it. Printed with the judge's tables: npm run demo:judge
import {
  ciede2000,
  labFromLinear709,
  lightBetween,
  spread,
  inReferenceLight,
  type Lab,
} from '../../packages/core/src/index.ts';
import type { Case } from './stills.ts';

type Rgb = [number, number, number];
type Matrix = ReturnType<typeof lightBetween>;

/** The mean of the solid inside over all frames, in linear light. */
function meanOf(
  of: Case,
  picture: (f: Case['frames'][number]) => { r: Float32Array; g: Float32Array; b: Float32Array },
) {
  const sum: Rgb = [0, 0, 0];
  let n = 0;
  for (const frame of of.frames) {
    const { r, g, b } = picture(frame);
    frame.alpha.forEach((a, i) => {
      if (a < 0.98) return;
      sum[0] += r[i]!;
      sum[1] += g[i]!;
      sum[2] += b[i]!;
      n++;
    });
  }
  return sum.map((v) => v / n) as Rgb;
}
const linear709 = (from: Rgb, to: Rgb): Matrix => [to[0] / from[0], 0, 0, 0, to[1] / from[1], 0, 0, 0, to[2] / from[2]];
export const WAYS: Record<string, (reference: Rgb, here: Rgb) => Matrix> = {
  CAT16: lightBetween,
  'linear 709': linear709,
};

export interface Carried {
  paint: string;
  /** Largest ΔE00 between the true colours of any two shots, brought back to one light. */
  spread: Record<string, number>;
  /** The same as filmed, without any light. */
  asFilmed: number;
}
/** The repainted suitcase in all its shots, paint by paint. */
export function carriedColours(all: readonly Case[]): Carried[] {
  const suitcases = all.filter((c) => c.piece === 'suitcase');
  const reference = suitcases.filter((c) => c.shot === 'shot-1-platform');
  return reference.map((first) => {
    const shots = suitcases.filter((c) => c.paint === first.paint);
    const old = meanOf(first, (f) => f.source.linear());
    const truths = shots.map((c) => meanOf(c, (f) => f.truth));
    const back = (between: (reference: Rgb, here: Rgb) => Matrix): Lab[] =>
      shots.map((c, k) => {
        const light =
          c === first
            ? undefined
            : between(
                old,
                meanOf(c, (f) => f.source.linear()),
              );
        return labFromLinear709(inReferenceLight(light, truths[k]!));
      });
    return {
      paint: first.paint,
      spread: Object.fromEntries(Object.entries(WAYS).map(([name, way]) => [name, spread(back(way))])),
      asFilmed: truths.reduce(
        (most, rgb) => Math.max(most, ciede2000(labFromLinear709(rgb), labFromLinear709(truths[0]!))),
        0,
      ),
    };
  });
}
