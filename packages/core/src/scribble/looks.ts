// What a stroke lay on when it was drawn, and which parts of it lie on the same on another frame: what has come in
// front of a piece, or what it has moved over, says nothing of its colours.
import type { Oklab } from '../colour/oklab.ts';
import type { OklabPlanes } from '../colour/oklabPlanes.ts';
import type { Stroke } from '../document/layer.ts';
import { median } from '../measure/median.ts';

/** A stroke is looked at in so many places at most, about one for each of its widths. */
export const MOST_LOOKS = 32;
/** A place is the mean of a disc of this share of the stroke's radius: not what lies at its rim. */
const CORE = 0.7;
/**
 * A place that is no farther from what was drawn on, as OKLab difference, looks as it did. Chosen on the demo's scooter
 * behind its lamp post (docs/accuracy.md).
 */
const SAME = 0.05;
/** Of so many places at least it can be told how the light has changed: */
const LEAST_FOR_LIGHT = 5;
/** by a factor of OKLab within these (of light: its third power), */
const LIGHT = { least: 0.7, most: 1.4 };
/** and by so much of a tint, per lightness. */
const MOST_TINT = 0.08;

/** A picture of which a pixel is 1 / `scale` pixels of the full resolution. */
export interface LookedAt {
  oklab: OklabPlanes;
  width: number;
  height: number;
  scale: number;
}

/** The colours that a stroke lies on, spread evenly along it; of a place off the picture the nearest in it. */
export function strokeLooks(picture: LookedAt, stroke: Pick<Stroke, 'points' | 'widthPx'>): Oklab[] {
  const alongPx = lengthsAlong(stroke.points).at(-1)!;
  const count = Math.min(Math.round(alongPx / stroke.widthPx) + 1, MOST_LOOKS);
  const inside = ([x, y]: Spot): Spot => [
    Math.min(Math.max(x, 0), picture.width / picture.scale - 1e-3),
    Math.min(Math.max(y, 0), picture.height / picture.scale - 1e-3),
  ];
  return placesAlong(stroke.points, count).map((at) => rounded(meanAt(picture, inside(at), stroke.widthPx)!));
}

/**
 * Of each stroke as it lies on a picture, the parts that still lie on what it was drawn on. A stroke that takes in or
 * leaves out and knows what that was loses all that is near none of its colours; others stay whole, as they are.
 */
export function partsThatHold(strokes: readonly Stroke[], picture: LookedAt): readonly (readonly Stroke[])[] {
  const looked = strokes.map((stroke) => {
    const { looks, sign, points, widthPx } = stroke;
    if (!looks?.length || (sign !== 'in' && sign !== 'out')) return { stroke };
    return { stroke, looks, now: placesAlong(points, looks.length).map((at) => meanAt(picture, at, widthPx)) };
  });
  const light = lightChange(looked.flatMap(({ looks, now }) => now?.map((n, k) => [looks[k]!, n] as const) ?? []));
  return looked.map(({ stroke, looks, now }) => {
    if (!now) return [stroke];
    const expected = looks.map(light);
    return heldParts(
      stroke,
      now.map((n) => n !== undefined && expected.some((look) => isAlike(n, look))),
    );
  });
}

/** All of those parts. */
export const strokesThatHold = (strokes: readonly Stroke[], picture: LookedAt): readonly Stroke[] =>
  partsThatHold(strokes, picture).flat();

/** Far finer than is told apart, and a stroke stays small. */
const rounded = ({ L, a, b }: Oklab): Oklab => {
  const [l, m, n] = [L, a, b].map((v) => Math.round(v * 1e4) / 1e4) as [number, number, number];
  return { L: l, a: m, b: n };
};

type Spot = readonly [x: number, y: number];
const isAlike = (p: Oklab, q: Oklab): boolean => Math.hypot(p.L - q.L, p.a - q.a, p.b - q.b) <= SAME;

/**
 * How colours look under the light of now, by what most places tell: more or less of it scales OKLab as a whole (its
 * cone responses are cube roots), another white adds a tint to what is light. As before, where that explains no more.
 */
function lightChange(pairs: readonly (readonly [before: Oklab, now: Oklab | undefined])[]): (look: Oklab) => Oklab {
  const same = (look: Oklab) => look;
  const seen = pairs.flatMap(([before, now]) => (now && Math.min(before.L, now.L) > 0.02 ? [{ before, now }] : []));
  if (seen.length < LEAST_FOR_LIGHT) return same;
  const factor = median(seen.map(({ before, now }) => now.L / before.L));
  const tint = (of: 'a' | 'b') => median(seen.map(({ before, now }) => (now[of] - factor * before[of]) / now.L));
  const [a, b] = [tint('a'), tint('b')];
  if (factor < LIGHT.least || factor > LIGHT.most || Math.hypot(a, b) > MOST_TINT) return same;
  const lit = (look: Oklab): Oklab => {
    const L = factor * look.L;
    return { L, a: factor * look.a + a * L, b: factor * look.b + b * L };
  };
  const explained = (by: (look: Oklab) => Oklab) => seen.filter(({ before, now }) => isAlike(now, by(before))).length;
  return explained(lit) > explained(same) ? lit : same;
}

/** Mean of the disc about a place of the full resolution, as far as it is in the picture; undefined off it. */
function meanAt({ oklab: { L, a, b }, width, height, scale }: LookedAt, [x, y]: Spot, widthPx: number) {
  const [cx, cy] = [x * scale, y * scale];
  const radius = Math.max(((CORE * widthPx) / 2) * scale, 0.75);
  const sum = { L: 0, a: 0, b: 0 };
  let count = 0;
  for (let v = Math.max(Math.floor(cy - radius), 0); v <= Math.min(cy + radius, height - 1); v++)
    for (let u = Math.max(Math.floor(cx - radius), 0); u <= Math.min(cx + radius, width - 1); u++) {
      if ((u + 0.5 - cx) ** 2 + (v + 0.5 - cy) ** 2 > radius * radius) continue;
      const i = v * width + u;
      sum.L += L[i]!;
      sum.a += a[i]!;
      sum.b += b[i]!;
      count++;
    }
  return count === 0 ? undefined : { L: sum.L / count, a: sum.a / count, b: sum.b / count };
}

/** How far along the stroke each of its points lies, pixels. */
function lengthsAlong(points: readonly Spot[]): number[] {
  let length = 0;
  return points.map((p, i) => (length += i === 0 ? 0 : Math.hypot(p[0] - points[i - 1]![0], p[1] - points[i - 1]![1])));
}
/** The place so far along a stroke, pixels. */
function placeAt(points: readonly Spot[], lengths: readonly number[], at: number): [x: number, y: number] {
  const next = lengths.findIndex((length, i) => i > 0 && length >= at);
  const [p, q] = next < 0 ? [points.at(-1)!, points.at(-1)!] : [points[next - 1]!, points[next]!];
  const share = next < 0 ? 0 : (at - lengths[next - 1]!) / (lengths[next]! - lengths[next - 1]! || 1);
  return [p[0] + share * (q[0] - p[0]), p[1] + share * (q[1] - p[1])];
}
function placesAlong(points: readonly Spot[], count: number): Spot[] {
  const lengths = lengthsAlong(points);
  return Array.from({ length: count }, (_, k) =>
    placeAt(points, lengths, count === 1 ? lengths.at(-1)! / 2 : (k / (count - 1)) * lengths.at(-1)!),
  );
}

/** A stroke without the parts that do not hold: each place stands for the way half to the next on either side. */
function heldParts(stroke: Stroke, held: readonly boolean[]): Stroke[] {
  if (held.every(Boolean)) return [stroke];
  const lengths = lengthsAlong(stroke.points);
  const step = lengths.at(-1)! / Math.max(held.length - 1, 1);
  const parts: Stroke[] = [];
  for (let first = held.indexOf(true); first >= 0;) {
    const after = held.indexOf(false, first);
    const end = after < 0 ? held.length : after;
    const [from, to] = [Math.max((first - 0.5) * step, 0), Math.min((end - 0.5) * step, lengths.at(-1)!)];
    const between = stroke.points.filter((_, i) => lengths[i]! > from && lengths[i]! < to);
    const ends = [from, to].map((at) => placeAt(stroke.points, lengths, at)) as [[number, number], [number, number]];
    parts.push({ ...stroke, points: [ends[0], ...between, ends[1]] });
    first = after < 0 ? -1 : held.indexOf(true, after);
  }
  return parts;
}
