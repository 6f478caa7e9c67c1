import { monotoneSlopes, hermite } from '../colour/monotoneCubic.ts';
import { BAND_HUES, type Bands, type HueCurve } from '../document/finer.ts';

const STEP = 360 / BAND_HUES.length;

/**
 * The periodic curve through the handles, over any hue in degrees: the monotone cubic of three periods side by side, so
 * that no place on the round is an end, and it never passes its handles.
 */
export function hueCurve(curve: HueCurve): (hueDeg: number) => number {
  const once = BAND_HUES.map((hue) => curve[`${hue}`]);
  const n = once.length;
  const slopes = monotoneSlopes(
    Array.from({ length: 3 * n }, (_, i) => i * STEP),
    [...once, ...once, ...once],
  );
  return (hueDeg) => {
    const turn = (((hueDeg / STEP) % n) + n) % n;
    const i = Math.floor(turn) % n;
    const j = (i + 1) % n;
    return hermite(turn - Math.floor(turn), STEP, once[i]!, once[j]!, slopes[n + i]!, slopes[n + j]!);
  };
}

/** Steps of the tables: a tenth of a degree is a change nobody sees between neighbours. */
const TABLE = 1440;
const tableOf = (curve: HueCurve) => {
  const at = hueCurve(curve);
  return Float64Array.from({ length: TABLE + 1 }, (_, i) => at((i * 360) / TABLE));
};
/** Chroma from which a hue counts in full; less has none to speak of, and its density is left alone. */
const HUED = 0.04;

/**
 * The bands on OKLab in place: hue turned and chroma scaled by what hue it is, and its light lowered by the density of
 * that hue. A density multiplies light, which is a cube root on all three of L, a, b.
 */
export function bandsOf({ hue, saturation, density }: Bands): (lab: Float64Array) => void {
  const [turn, factor, darker] = [tableOf(hue), tableOf(saturation), tableOf(density)];
  return (lab) => {
    const a = lab[1]!;
    const b = lab[2]!;
    const chroma = Math.hypot(a, b);
    if (chroma === 0) return;
    const angle = Math.atan2(b, a);
    const place = ((angle < 0 ? angle + 2 * Math.PI : angle) / (2 * Math.PI)) * TABLE;
    const i = Math.min(Math.floor(place), TABLE - 1);
    const t = place - i;
    const at = (table: Float64Array) => table[i]! + t * (table[i + 1]! - table[i]!);
    const share = Math.min(chroma / HUED, 1);
    const light = 10 ** ((-at(darker) * share * share * (3 - 2 * share)) / 3);
    const next = angle + (at(turn) * Math.PI) / 180;
    const length = chroma * at(factor) * light;
    lab[0] = lab[0]! * light;
    lab[1] = length * Math.cos(next);
    lab[2] = length * Math.sin(next);
  };
}
