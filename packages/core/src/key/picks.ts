import { oklchFromOklab, turnDeg, wrapDeg, type Oklab, type Oklch } from '../colour/oklab.ts';
import { rangeKeyAt, type RangeKey } from './rangeKey.ts';
import type { Window } from './window.ts';

/** Colours taken from the picture, and whether the key must take them in or leave them out. */
export interface PickedColours {
  sign: 'add' | 'remove';
  samples: Oklab[];
}

/** How far the core reaches past the samples, and the margin beyond it: in degrees, chroma, lightness. */
const MARGIN = { hue: 7, chroma: 0.025, lightness: 0.07 } as const;
const SOFT = { hue: 12, chroma: 0.035, lightness: 0.08 } as const;
/** A removed sample may keep this much α. */
const REMOVED_ALPHA = 0.02;
/** An add pick leaves a window as it is when its samples already score this. */
const ENOUGH = 0.98;

/** The value below which a share `q` of the sorted numbers lies, linearly interpolated. */
function percentile(sorted: readonly number[], q: number): number {
  const at = q * (sorted.length - 1);
  const i = Math.floor(at);
  const below = sorted[i]!;
  return below + (at - i) * ((sorted[i + 1] ?? below) - below);
}
function spread(values: readonly number[]): [number, number] {
  const sorted = [...values].sort((p, q) => p - q);
  return [percentile(sorted, 0.02), percentile(sorted, 0.98)];
}

/** Chroma-weighted circular mean of hue: near-neutral samples have little say. */
function meanHueDeg(samples: readonly Oklab[]): number {
  const a = samples.reduce((sum, s) => sum + s.a, 0);
  const b = samples.reduce((sum, s) => sum + s.b, 0);
  return wrapDeg((Math.atan2(b, a) * 180) / Math.PI);
}

/**
 * The key of a first pick: each core spans the 2nd to 98th percentile of the samples plus a margin.
 * Throws RangeError without samples.
 */
export function keyFromFirstPick(samples: readonly Oklab[]): RangeKey {
  if (samples.length === 0) throw new RangeError('a first pick needs at least one sample');
  const lch = samples.map(oklchFromOklab);
  const centre = meanHueDeg(samples);
  const [hueLo, hueHi] = spread(lch.map((s) => turnDeg(centre, s.hDeg)));
  const [chromaLo, chromaHi] = spread(lch.map((s) => s.C));
  const [lightLo, lightHi] = spread(lch.map((s) => s.L));
  const lo = wrapDeg(centre + hueLo - MARGIN.hue);
  return {
    hue: { on: true, lo, hi: lo + Math.min(hueHi - hueLo + 2 * MARGIN.hue, 360), softLo: SOFT.hue, softHi: SOFT.hue },
    chroma: { on: true, lo: Math.max(chromaLo - MARGIN.chroma, 0), hi: chromaHi + MARGIN.chroma, softLo: SOFT.chroma, softHi: SOFT.chroma },
    lightness: { on: true, lo: Math.max(lightLo - MARGIN.lightness, 0), hi: lightHi + MARGIN.lightness, softLo: SOFT.lightness, softHi: SOFT.lightness },
  };
}

const widenTo = (w: Window, lo: number, hi: number): Window => (w.on ? { ...w, lo: Math.min(w.lo, lo), hi: Math.max(w.hi, hi) } : w);

/** The hue core grown, on the nearer side, until it holds each of the hues. */
function widenHue(w: Window, huesDeg: readonly number[]): Window {
  let { lo, hi } = w;
  for (const hue of huesDeg) {
    const above = wrapDeg(hue - lo);
    if (above <= hi - lo) continue;
    const past = above - (hi - lo);
    const short = 360 - above;
    if (past <= short) hi += past;
    else lo -= short;
  }
  const start = wrapDeg(lo);
  return { ...w, lo: start, hi: start + Math.min(hi - lo, 360) };
}

/** The key widened just enough that it takes these samples in; a window that already holds them stays. */
export function keyWithAdded(key: RangeKey, samples: readonly Oklab[]): RangeKey {
  const missed = samples.filter((s) => rangeKeyAt(key, s) < ENOUGH).map(oklchFromOklab);
  if (missed.length === 0) return key;
  const [chromaLo, chromaHi] = spread(missed.map((s) => s.C));
  const [lightLo, lightHi] = spread(missed.map((s) => s.L));
  const hues = missed.filter((s) => s.C > 0.01).map((s) => s.hDeg);
  return {
    hue: key.hue.on ? widenHue(key.hue, hues) : key.hue,
    chroma: widenTo(key.chroma, Math.max(chromaLo, 0), chromaHi),
    lightness: widenTo(key.lightness, lightLo, lightHi),
  };
}

/** The window cut back from above, then from below, so that `values` fall outside its margins. */
function narrowed(w: Window, values: readonly number[]): Window[] {
  const lowest = Math.min(...values);
  const highest = Math.max(...values);
  const hi = Math.min(w.hi, lowest - w.softHi);
  const lo = Math.max(w.lo, highest + w.softLo);
  return [
    { ...w, hi: Math.max(hi, w.lo), softHi: hi < w.lo ? Math.max(lowest - w.lo, 0) : w.softHi },
    { ...w, lo: Math.min(lo, w.hi), softLo: lo > w.hi ? Math.max(w.hi - highest, 0) : w.softLo },
  ];
}

/** Every way to push the samples out by cutting one side of one window. */
function cuts(key: RangeKey, lch: readonly Oklch[]): RangeKey[] {
  const result: RangeKey[] = [];
  if (key.lightness.on) for (const lightness of narrowed(key.lightness, lch.map((s) => s.L))) result.push({ ...key, lightness });
  if (key.chroma.on) for (const chroma of narrowed(key.chroma, lch.map((s) => s.C))) result.push({ ...key, chroma });
  if (key.hue.on) {
    // hue as a signed turn from the middle of the core, so that the circle is cut open on the far side
    const middle = (key.hue.lo + key.hue.hi) / 2;
    const flat: Window = { ...key.hue, lo: key.hue.lo - middle, hi: key.hue.hi - middle };
    for (const w of narrowed(flat, lch.map((s) => turnDeg(middle, s.hDeg)))) {
      const lo = wrapDeg(w.lo + middle);
      result.push({ ...key, hue: { ...w, lo, hi: lo + (w.hi - w.lo) } });
    }
  }
  return result;
}

/** The key narrowed so that it leaves these samples out, by the one cut that costs the least α of the wanted colours. */
export function keyWithRemoved(key: RangeKey, samples: readonly Oklab[], wanted: readonly Oklab[]): RangeKey {
  const caught = samples.filter((s) => rangeKeyAt(key, s) > REMOVED_ALPHA);
  if (caught.length === 0) return key;
  const lch = caught.map(oklchFromOklab);
  const kept = (k: RangeKey) => wanted.reduce((sum, s) => sum + rangeKeyAt(k, s), 0);
  const left = (k: RangeKey) => caught.reduce((sum, s) => sum + Math.max(rangeKeyAt(k, s) - REMOVED_ALPHA, 0), 0);
  return cuts(key, lch)
    .map((k) => ({ k, score: kept(k) - 100 * left(k) }))
    .reduce((best, each) => (each.score > best.score ? each : best)).k;
}

/** A key (none yet: undefined) after one more pick; `earlier` are the picks already in it, whose added colours are wanted. */
export function keyWithPick(key: RangeKey | undefined, { sign, samples }: PickedColours, earlier: readonly PickedColours[]): RangeKey | undefined {
  if (sign === 'add') return key ? keyWithAdded(key, samples) : keyFromFirstPick(samples);
  return key && keyWithRemoved(key, samples, earlier.filter((p) => p.sign === 'add').flatMap((p) => p.samples));
}

/** The key of a whole list of picks, in order; undefined while there is no add pick. Pure: picks can be solved again. */
export const keyFromPicks = (picks: readonly PickedColours[]): RangeKey | undefined =>
  picks.reduce<RangeKey | undefined>((key, pick, i) => keyWithPick(key, pick, picks.slice(0, i)), undefined);
