// How well a shot's light, found from a piece's own old colour, carries its new one: the true mean of the repainted
// suitcase in each shot, brought back to the light of the first. By CAT16, as the application does it, and by factors
// on linear BT.709 beside it. Printed with the judge's tables: npm run demo:judge
import {
  ciede2000,
  findSheenBody,
  labFromLinear709,
  lightBetween,
  sheenOf,
  sheenSamples,
  spread,
  inReferenceLight,
  type Lab,
} from '../../packages/core/src/index.ts';
import { STILL_SIZE, type Case } from './stills.ts';

type Rgb = [number, number, number];
type Matrix = ReturnType<typeof lightBetween>;

/** What is compared: the mean of the piece, or of its body, as sheen can be told apart here. */
const OF = ['mean', 'body'] as const;
type Of = (typeof OF)[number];
/** The mean over all frames of the solid inside, as filmed and as it truly is repainted, in linear light. */
function meansOf(of: Case, what: Of): { old: Rgb; repainted: Rgb } {
  const { width, height } = STILL_SIZE;
  const solid = of.frames.flatMap(({ source, alpha }) => sheenSamples(source.linear(), alpha, width, height));
  const found = what === 'body' ? findSheenBody(solid) : undefined;
  const body = found && { ...found, confidence: 1 };
  const [old, repainted]: [Rgb, Rgb] = [
    [0, 0, 0],
    [0, 0, 0],
  ];
  let n = 0;
  for (const { source, alpha, truth } of of.frames) {
    const filmed = source.linear();
    const sheen = body && sheenOf(filmed, alpha, width, height, body, source.scale);
    alpha.forEach((a, i) => {
      if (a < 0.98) return;
      n++;
      (['r', 'g', 'b'] as const).forEach((plane, c) => {
        const shine = sheen ? sheen[i]! * body.light[c]! : 0;
        old[c]! += filmed[plane][i]! - shine;
        repainted[c]! += truth[plane][i]! - shine;
      });
    });
  }
  const mean = (sum: Rgb) => sum.map((v) => v / n) as Rgb;
  return { old: mean(old), repainted: mean(repainted) };
}
const linear709 = (from: Rgb, to: Rgb): Matrix => [to[0] / from[0], 0, 0, 0, to[1] / from[1], 0, 0, 0, to[2] / from[2]];
const WAYS: Record<string, (reference: Rgb, here: Rgb) => Matrix> = {
  CAT16: lightBetween,
  'linear 709': linear709,
};

export interface Carried {
  paint: string;
  /** Largest ΔE00 between the true colours of any two shots, brought back to one light, by way and what is compared. */
  spread: Record<string, number>;
  /** The same as filmed, without any light. */
  asFilmed: number;
}
/** The repainted suitcase in all its shots, paint by paint. */
export function carriedColours(all: readonly Case[]): Carried[] {
  const suitcases = all.filter((c) => c.piece === 'suitcase');
  return suitcases
    .filter((c) => c.shot === 'shot-1-platform')
    .map(({ paint }) => {
      const shots = suitcases.filter((c) => c.paint === paint);
      const by = OF.flatMap((of) => {
        const means = shots.map((c) => meansOf(c, of));
        const back = (between: (typeof WAYS)[string]): Lab[] =>
          means.map(({ old, repainted }, k) =>
            labFromLinear709(inReferenceLight(k === 0 ? undefined : between(means[0]!.old, old), repainted)),
          );
        return Object.entries(WAYS).map(([name, way]) => [`${of}, ${name}`, spread(back(way))] as const);
      });
      const truths = shots.map((c) => labFromLinear709(meansOf(c, 'mean').repainted));
      return {
        paint,
        spread: Object.fromEntries(by),
        asFilmed: Math.max(...truths.map((lab) => ciede2000(lab, truths[0]!))),
      };
    });
}
