// A balance set by eye: what becomes of a dark, a middle and a light grey, each turned by one number of the CDL.
import type { Balance } from '../document/balance.ts';
import { codeFromLinear, codesFromLinear709, linear709FromCodes, type Encoding } from '../colour/encoding.ts';
import { transform, type Triple } from '../colour/matrix3.ts';
import { cdlChannel, cdlSaturation, warmthMatrix } from './balance.ts';

/**
 * The greys one looks at, in linear light (0.18 is the grey card of ISO 12232; the other two are about two and a half
 * stops from it, common practice, no source), and the CDL's numbers that move mostly them.
 */
export const TONES = {
  shadows: { grey: 0.03, by: 'offset' },
  middle: { grey: 0.18, by: 'power' },
  light: { grey: 0.8, by: 'slope' },
} as const satisfies Record<string, { grey: number; by: 'slope' | 'offset' | 'power' }>;
export type Tone = keyof typeof TONES;

/** What the numbers of the CDL may be here: as in the document's schema. */
const RANGE = { slope: [0, 8], offset: [-1, 1], power: [0.1, 8] } as const;
/** Codes are kept off the ends by this much where a root or a logarithm is taken of them. */
const OFF_ENDS = 1e-4;
type Three = [number, number, number];

/** The codes a CDL makes of three codes, saturation included. */
function underCdl({ slope, offset, power, saturation }: Balance, codes: Triple): Three {
  const out = codes.map((x, c) => cdlChannel(x, slope[c]!, offset[c]!, power[c]!)) as Three;
  cdlSaturation(out, saturation);
  return out;
}
/** The same without saturation: luma stays, so the way back is the other factor. */
function beforeSaturation(codes: Triple, saturation: number): Three {
  const out = [...codes] as Three;
  if (saturation > 0) cdlSaturation(out, 1 / saturation);
  return out;
}
const clamped = (v: number, [low, high]: readonly [number, number]): number => Math.min(Math.max(v, low), high);

/** Linear BT.709 light that a neutral grey of a tone becomes under a balance's CDL (exposure and warmth left out). */
export function toneUnder(balance: Balance, tone: Tone, encoding: Encoding): Three {
  const x = codeFromLinear(encoding, TONES[tone].grey);
  return [...linear709FromCodes(encoding, underCdl(balance, [x, x, x]))] as Three;
}

/**
 * The balance with which a neutral grey of a tone becomes `wanted` (linear BT.709): the tone's own number is solved for
 * in each channel, the others stay. Exact as long as the number stays in its range; else it ends there.
 */
export function balanceWithTone(balance: Balance, tone: Tone, encoding: Encoding, wanted: Triple): Balance {
  const { by, grey } = TONES[tone];
  const x = codeFromLinear(encoding, grey);
  const codes = beforeSaturation(codesFromLinear709(encoding, wanted), balance.saturation);
  const { slope, offset, power } = balance;
  const SOLVED = {
    slope: (y: number, c: number) => (y ** (1 / power[c]!) - offset[c]!) / x,
    offset: (y: number, c: number) => y ** (1 / power[c]!) - slope[c]! * x,
    power: (y: number, c: number) =>
      Math.log(y) / Math.log(clamped(slope[c]! * x + offset[c]!, [OFF_ENDS, 1 - OFF_ENDS])),
  };
  const solved = codes.map((code, c) => {
    const y = by === 'power' ? clamped(code, [OFF_ENDS, 1 - OFF_ENDS]) : Math.max(code, 0);
    return clamped(SOLVED[by](y, c), RANGE[by]);
  });
  return { ...balance, [by]: solved as Three };
}

/** Light of the source after exposure and warmth: what the CDL is given. */
function exposed({ exposureStops, warmthMired }: Balance, light: Triple): Three {
  const gain = 2 ** exposureStops;
  const lit = light.map((v) => v * gain) as Three;
  return warmthMired === 0 ? lit : transform(warmthMatrix(warmthMired), lit);
}

/**
 * The balance that makes what is `seen` (linear BT.709 of the source, before the balance) neutral at the luma it has
 * now, by slope.
 */
export function neutralised(balance: Balance, encoding: Encoding, seen: Triple): Balance {
  const codes = codesFromLinear709(encoding, exposed(balance, seen));
  const now = underCdl(balance, codes);
  cdlSaturation(now, 0);
  const slope = codes.map((x, c) => {
    const wanted = Math.max(now[c]!, 0) ** (1 / balance.power[c]!);
    return x > OFF_ENDS ? clamped((wanted - balance.offset[c]!) / x, RANGE.slope) : balance.slope[c]!;
  });
  return { ...balance, slope: slope as Three };
}

/** A patch in this shot, linear BT.709 before its balance, and as it is to look: as in the reference shot. */
export interface BalancePair {
  here: Triple;
  wanted: Triple;
}
/**
 * The balance that brings patches nearest to what they are to look like, in codes, channel by channel: slope for one
 * patch, slope and offset by least squares for more. Power goes back to 1, exposure and warmth stay.
 */
export function balanceFromPairs(balance: Balance, encoding: Encoding, pairs: readonly BalancePair[]): Balance {
  if (pairs.length === 0) return balance;
  const from = pairs.map((p) => codesFromLinear709(encoding, exposed(balance, p.here)));
  const to = pairs.map((p) => beforeSaturation(codesFromLinear709(encoding, p.wanted), balance.saturation));
  const lines = [0, 1, 2].map((c) =>
    lineThrough(
      from.map((x) => x[c]!),
      to.map((y) => y[c]!),
    ),
  );
  return {
    ...balance,
    slope: lines.map((l) => clamped(l.slope, RANGE.slope)) as Three,
    offset: lines.map((l) => clamped(l.offset, RANGE.offset)) as Three,
    power: [1, 1, 1],
  };
}
/** Ordinary least squares; through the origin where the places do not tell slope from offset. */
function lineThrough(xs: readonly number[], ys: readonly number[]): { slope: number; offset: number } {
  const n = xs.length;
  const mean = (of: readonly number[]) => of.reduce((sum, v) => sum + v, 0) / n;
  const [mx, my] = [mean(xs), mean(ys)];
  const spread = xs.reduce((sum, x) => sum + (x - mx) ** 2, 0);
  if (spread < n * OFF_ENDS) return { slope: mx > OFF_ENDS ? my / mx : 1, offset: 0 };
  const slope = xs.reduce((sum, x, i) => sum + (x - mx) * (ys[i]! - my), 0) / spread;
  return { slope, offset: my - slope * mx };
}
