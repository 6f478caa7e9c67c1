import { cat16FromLinear709, gainMatrix } from '../colour/cat16.ts';
import { ciede2000 } from '../colour/ciede2000.ts';
import { clampToCodes, type Encoding } from '../colour/encoding.ts';
import { labFromLinear709, lchFromLab, linear709FromLab, type Lab } from '../colour/lab.ts';
import { inverse, transform, type Triple } from '../colour/matrix3.ts';
import { oklabFromLinear709, oklchFromOklab, turnDeg, type Oklch } from '../colour/oklab.ts';
import type { LinearPlanes } from '../colour/planes.ts';
import type { Gain, Shift } from '../document/recipe.ts';
import { MEASURED_ALPHA, withoutSheen, type IsClipped } from '../measure/measurePiece.ts';
import { solveInPlace } from '../track/linear.ts';
import { repainted, type Light, type Program } from './program.ts';

/** Colours of a piece, linear BT.709, each with its weight, and how much of it is sheen where that was told apart. */
export interface PieceSamples extends LinearPlanes {
  weight: Float32Array;
  sheen?: Float32Array | undefined;
}
const MOST_SAMPLES = 4096;
/** A mean this near the required colour has reached it, ΔE00. */
export const REACHED = 0.1;

/**
 * Pixels of a piece as measuring takes them (α ≥ 0.9, not clipped), at most 4,096, evenly spread; undefined without.
 */
export function pieceSamples(
  picture: LinearPlanes,
  alpha: Float32Array,
  isClipped: IsClipped,
  sheen?: Float32Array,
): PieceSamples | undefined {
  const taken: number[] = [];
  for (let i = 0; i < alpha.length; i++) if (alpha[i]! >= MEASURED_ALPHA && !isClipped(i)) taken.push(i);
  if (taken.length === 0) return undefined;
  const step = Math.max(taken.length / MOST_SAMPLES, 1);
  const index = Array.from({ length: Math.ceil(taken.length / step) }, (_, k) => taken[Math.floor(k * step)]!);
  const of = (plane: Float32Array) => Float32Array.from(index, (i) => plane[i]!);
  return {
    r: of(picture.r),
    g: of(picture.g),
    b: of(picture.b),
    weight: of(alpha),
    ...(sheen && { sheen: of(sheen) }),
  };
}

/** What is compared with a required colour: the mean of the piece, or of its body, without the sheen put back on it. */
export type Compared = 'mean' | 'body';

/**
 * The mean of a piece, or of its body where sheen is told apart, after a recolour, as it is encoded: what no code can
 * hold is cut off.
 */
export function meanAfter(
  { r, g, b, weight, sheen }: PieceSamples,
  program: Program,
  encoding: Encoding,
  of: Compared = 'mean',
): Triple {
  const clamp = clampToCodes(encoding);
  const sum: [number, number, number] = [0, 0, 0];
  let [weights, sheens] = [0, 0];
  const k = program.strength;
  for (let i = 0; i < weight.length; i++) {
    const own: Triple = [r[i]!, g[i]!, b[i]!];
    const next = repainted(program, own, sheen?.[i] ?? 0);
    const [R, G, B] = clamp([
      own[0] + k * (next[0] - own[0]),
      own[1] + k * (next[1] - own[1]),
      own[2] + k * (next[2] - own[2]),
    ]);
    const w = weight[i]!;
    weights += w;
    sheens += w * (sheen?.[i] ?? 0);
    sum[0] += w * R;
    sum[1] += w * G;
    sum[2] += w * B;
  }
  const mean: Triple = [sum[0] / weights, sum[1] / weights, sum[2] / weights];
  if (of === 'mean' || !program.sheen) return mean;
  const { body, kept } = program.sheen;
  return withoutSheen(mean, ((1 + k * (kept - 1)) * sheens) / weights, body.light);
}

/** What of the required colour is wanted; the rest stays as it is in the source. */
export interface Carried {
  hue: boolean;
  saturation: boolean;
  lightness: boolean;
}
/** A colour with hue, chroma and lightness (CIELAB) of one or the other. */
export function carriedLab(from: Lab, to: Lab, { hue, saturation, lightness }: Carried): Lab {
  if (hue && saturation && lightness) return to;
  const [a, b] = [lchFromLab(from), lchFromLab(to)];
  const C = saturation ? b.C : a.C;
  const angle = ((hue ? b.hDeg : a.hDeg) * Math.PI) / 180;
  return { L: lightness ? b.L : a.L, a: C * Math.cos(angle), b: C * Math.sin(angle) };
}

/** What a match has found. */
export interface Match<T> {
  found: T;
  /** The mean of the piece with it, Lab (D65), and how far that lies from what was wanted. */
  reached: Lab;
  deltaE: number;
}

/** A gain on light that still looks like more light on the same stuff. */
const MOST_LIFT = 8;
/**
 * How much dye a dark piece keeps when it is made light: by gain alone its grain and sheen would be lifted as much as
 * its body, and cut off. Past eight times the light the lift is shared out: light times eight, and as little less dye
 * as makes up the rest (Beer–Lambert), so that light and shade stand to each other as in a paler paint. Undefined where
 * a gain is enough. Both are luminances of the piece's mean, > 0.
 */
export function dyeForLift(source: number, wanted: number): number | undefined {
  const lift = wanted / source;
  return lift > MOST_LIFT ? Math.log(MOST_LIFT) / Math.log(lift) : undefined;
}

/** From this factor on one channel's light grain is lifted visibly (chosen on the demo's stills: docs/accuracy.md). */
const LIFTS_GRAIN = 1.5;
/** Colour is softened by so much, by more where grain is lifted: σ, full-resolution pixels. */
const [SOFTENED_PX, SOFTENED_MORE_PX] = [1.3, 2.7];
/**
 * By how much the colour of a piece should be softened inside its matte when it is matched: a camera's colour is
 * noisier and coarser than its luminance, which stays, and with it the weave; so does the mean.
 */
export function softenForGain({ long, middle, short }: Gain): number {
  const m = gainMatrix([long, middle, short]);
  const lift = Math.max(...[0, 3, 6].map((row) => Math.hypot(m[row]!, m[row + 1]!, m[row + 2]!)));
  return lift > LIFTS_GRAIN ? SOFTENED_MORE_PX : SOFTENED_PX;
}

const ROUNDS = 16;
const [LEAST_GAIN, MOST_GAIN] = [0.001, 1000];

/**
 * The gain with which the mean of a piece, or of its body (`of`), becomes `wanted` (Lab, D65, as seen in its own shot):
 * von Kries's ratio of cone responses in CAT16, in the reference light, taken again until what is cut off by the
 * encoding is made up for. `program` compiles a gain. Where the colour is out of reach the nearest that was met is
 * given, with its ΔE00.
 */
export function solveGain(
  samples: PieceSamples,
  wanted: Lab,
  encoding: Encoding,
  light: Light,
  program: (gain: Gain) => Program,
  of: Compared = 'mean',
): Match<Gain> {
  const back = inverse(light);
  const target = cat16FromLinear709(transform(back, linear709FromLab(wanted)));
  let gain: Gain = { long: 1, middle: 1, short: 1 };
  let best: Match<Gain> | undefined;
  for (let round = 0; round < ROUNDS; round++) {
    const mean = meanAfter(samples, program(gain), encoding, of);
    const reached = labFromLinear709(mean);
    const deltaE = ciede2000(reached, wanted);
    if (!best || deltaE < best.deltaE) best = { found: gain, reached, deltaE };
    if (deltaE < REACHED / 20) break;
    const now = cat16FromLinear709(transform(back, mean));
    const next = (old: number, c: 0 | 1 | 2) => {
      const ratio = now[c] > 1e-6 && target[c] > 0 ? target[c] / now[c] : 1;
      return Math.min(Math.max(old * ratio, LEAST_GAIN), MOST_GAIN);
    };
    gain = { long: next(gain.long, 0), middle: next(gain.middle, 1), short: next(gain.short, 2) };
  }
  return best!;
}

/** From where turn, saturation and density are sought: the way to the wanted hue may be either. */
const STARTS = [0, 120, -120] as const;
const STEPS: Record<Unknown, number> = { hueDeg: 0.5, saturation: 0.01, density: 0.005 };
const UNKNOWN = ['hueDeg', 'saturation', 'density'] as const;
type Unknown = (typeof UNKNOWN)[number];

/**
 * The other way: hue, saturation and density with which the mean becomes `wanted`, by Newton's method on the three of
 * Lab, each step halved until it helps. A piece without a hue has none to turn: then the nearest is far.
 */
export function solveShift(
  samples: PieceSamples,
  wanted: Lab,
  encoding: Encoding,
  program: (shift: Shift) => Program,
): Match<Shift> {
  const measured = (shift: Shift): Match<Shift> => {
    const reached = labFromLinear709(meanAfter(samples, program(shift), encoding));
    return { found: shift, reached, deltaE: ciede2000(reached, wanted) };
  };
  // shading, and density with it, scales all of OKLab alike: chroma is compared for its lightness
  const [from, to] = [measured(PLAIN).reached, wanted].map((lab) =>
    oklchFromOklab(oklabFromLinear709(linear709FromLab(lab))),
  ) as [Oklch, Oklch];
  const turn = turnDeg(from.hDeg, to.hDeg);
  const saturation = Math.min(Math.max(from.C > 0.005 ? (to.C / to.L / from.C) * from.L : 1, 0.05), 4);
  let best = measured(PLAIN);
  for (const off of STARTS) {
    const turned = measured({ ...PLAIN, hueDeg: turn + off, saturation });
    // as dark as it must be, to begin with: density goes by the cube of lightness, about
    const density = 3 * Math.log10((turned.reached.L + 16) / (wanted.L + 16));
    let now = measured({ ...turned.found, density: Math.min(Math.max(density, -2), 2) });
    for (let round = 0; round < ROUNDS && now.deltaE > REACHED / 20; round++) {
      const next = newtonStep(now, wanted, measured);
      if (!next) break;
      now = next;
    }
    if (now.deltaE < best.deltaE) best = now;
    if (best.deltaE < REACHED) break;
  }
  const hueDeg = ((((best.found.hueDeg + 180) % 360) + 360) % 360) - 180;
  return { ...best, found: { ...best.found, hueDeg } };
}
const PLAIN: Shift = { exposureStops: 0, hueDeg: 0, saturation: 1, density: 0 };

const differences = (from: Lab, to: Lab): Triple => [to.L - from.L, to.a - from.a, to.b - from.b];
const apart = (from: Lab, to: Lab) => Math.hypot(...differences(from, to));
function newtonStep(
  now: Match<Shift>,
  wanted: Lab,
  measured: (shift: Shift) => Match<Shift>,
): Match<Shift> | undefined {
  const columns = UNKNOWN.map((name) => {
    const there = measured({ ...now.found, [name]: now.found[name] + STEPS[name] });
    return differences(now.reached, there.reached).map((v) => v / STEPS[name]);
  });
  const a = Float64Array.from([0, 1, 2].flatMap((row) => columns.map((c) => c[row]!)));
  const step = Float64Array.from(differences(now.reached, wanted));
  if (!solveInPlace(a, step, 3)) return undefined;
  for (let share = 1; share > 0.05; share /= 2) {
    const at = (k: number) => now.found[UNKNOWN[k]!] + share * step[k]!;
    const next = measured({
      ...now.found,
      hueDeg: at(0),
      saturation: Math.min(Math.max(at(1), 0), 4),
      density: Math.min(Math.max(at(2), -2), 2),
    });
    if (apart(next.reached, wanted) < apart(now.reached, wanted)) return next;
  }
  return undefined;
}
