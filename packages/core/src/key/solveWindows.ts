import type { Window } from '../document/key.ts';
import { turnDeg, wrapDeg, type Oklab } from '../colour/oklab.ts';

/** Colours taken from the picture, and whether the key must take them in or leave them out. */
export interface PickedColours {
  sign: 'add' | 'remove';
  samples: Oklab[];
}

/** One quantity a key has a window on. */
export interface Channel {
  name: string;
  /** How far the core of a first pick reaches past its samples, and the margin beyond it. */
  margin: number;
  soft: number;
  /** True for an angle in degrees. */
  wraps?: boolean;
  /** The quantity of a colour. */
  of: (sample: Oklab) => number;
}
type Windows = Record<string, Window>;
/** What the solver must know of a key: its channels, and α of a colour under given windows. */
export interface WindowSpec<W extends Windows> {
  channels: readonly (Channel & { name: keyof W & string })[];
  at: (windows: W, sample: Oklab) => number;
}

/** A removed sample may keep this much α. */
const REMOVED_ALPHA = 0.02;
/** An add pick leaves a window as it is when its samples already score this. */
const ENOUGH = 0.98;
/** A colour greyer than this (OKLCh chroma) has no say in where a hue window reaches. */
const HAS_HUE_CHROMA = 0.01;

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

function firstWindow({ margin, soft, wraps, of }: Channel, samples: readonly Oklab[]): Window {
  if (!wraps) {
    const [lo, hi] = spread(samples.map(of));
    // a quantity stops at 0, unless the picture itself goes below (out of gamut)
    return { on: true, lo: Math.min(Math.max(lo - margin, 0), lo), hi: hi + margin, softLo: soft, softHi: soft };
  }
  const centre = meanHueDeg(samples);
  const [lo, hi] = spread(samples.map((s) => turnDeg(centre, of(s))));
  const start = wrapDeg(centre + lo - margin);
  return { on: true, lo: start, hi: start + Math.min(hi - lo + 2 * margin, 360), softLo: soft, softHi: soft };
}

/**
 * The windows of a first pick: each core spans the 2nd to 98th percentile of the samples plus a margin.
 * Throws RangeError without samples.
 */
export function windowsFromFirstPick<W extends Windows>(spec: WindowSpec<W>, samples: readonly Oklab[]): W {
  if (samples.length === 0) throw new RangeError('a first pick needs at least one sample');
  return Object.fromEntries(spec.channels.map((c) => [c.name, firstWindow(c, samples)])) as W;
}

/** A core on an angle grown, on the nearer side, until it holds each of the angles. */
function widenedAngle(w: Window, anglesDeg: readonly number[]): Window {
  let { lo, hi } = w;
  for (const angle of anglesDeg) {
    const above = wrapDeg(angle - lo);
    if (above <= hi - lo) continue;
    const past = above - (hi - lo);
    const short = 360 - above;
    if (past <= short) hi += past;
    else lo -= short;
  }
  const start = wrapDeg(lo);
  return { ...w, lo: start, hi: start + Math.min(hi - lo, 360) };
}

/** The windows widened just enough that they take these samples in; a window that already holds them stays. */
export function windowsWithAdded<W extends Windows>(spec: WindowSpec<W>, windows: W, samples: readonly Oklab[]): W {
  const missed = samples.filter((s) => spec.at(windows, s) < ENOUGH);
  if (missed.length === 0) return windows;
  const result: Windows = { ...windows };
  for (const { name, wraps, of } of spec.channels) {
    const w = windows[name]!;
    if (!w.on) continue;
    if (wraps) result[name] = widenedAngle(w, missed.filter((s) => Math.hypot(s.a, s.b) > HAS_HUE_CHROMA).map(of));
    else {
      const [lo, hi] = spread(missed.map(of));
      result[name] = { ...w, lo: Math.min(w.lo, Math.max(lo, 0)), hi: Math.max(w.hi, hi) };
    }
  }
  return result as W;
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
function cuts<W extends Windows>(spec: WindowSpec<W>, windows: W, samples: readonly Oklab[]): W[] {
  return spec.channels.flatMap(({ name, wraps, of }) => {
    const w = windows[name]!;
    if (!w.on) return [];
    if (!wraps) return narrowed(w, samples.map(of)).map((cut) => ({ ...windows, [name]: cut }));
    // the angle as a signed turn from the middle of the core, so that the circle is cut open on the far side
    const middle = (w.lo + w.hi) / 2;
    return narrowed(
      { ...w, lo: w.lo - middle, hi: w.hi - middle },
      samples.map((s) => turnDeg(middle, of(s))),
    ).map((cut) => {
      const lo = wrapDeg(cut.lo + middle);
      return { ...windows, [name]: { ...cut, lo, hi: lo + (cut.hi - cut.lo) } };
    });
  });
}

/**
 * The windows narrowed so that they leave these samples out, by the one cut that costs the least α of the wanted
 * colours.
 */
export function windowsWithRemoved<W extends Windows>(
  spec: WindowSpec<W>,
  windows: W,
  samples: readonly Oklab[],
  wanted: readonly Oklab[],
): W {
  const caught = samples.filter((s) => spec.at(windows, s) > REMOVED_ALPHA);
  if (caught.length === 0) return windows;
  const kept = (k: W) => wanted.reduce((sum, s) => sum + spec.at(k, s), 0);
  const left = (k: W) => caught.reduce((sum, s) => sum + Math.max(spec.at(k, s) - REMOVED_ALPHA, 0), 0);
  return cuts(spec, windows, caught)
    .map((k) => ({ k, score: kept(k) - 100 * left(k) }))
    .reduce((best, each) => (each.score > best.score ? each : best), { k: windows, score: -Infinity }).k;
}

/**
 * The windows (none yet: undefined) after one more pick; `earlier` are the picks already in them, whose added colours
 * are wanted.
 */
export function windowsWithPick<W extends Windows>(
  spec: WindowSpec<W>,
  windows: W | undefined,
  { sign, samples }: PickedColours,
  earlier: readonly PickedColours[],
): W | undefined {
  if (sign === 'add') return windows ? windowsWithAdded(spec, windows, samples) : windowsFromFirstPick(spec, samples);
  return (
    windows &&
    windowsWithRemoved(
      spec,
      windows,
      samples,
      earlier.filter((p) => p.sign === 'add').flatMap((p) => p.samples),
    )
  );
}

/**
 * The windows of a whole list of picks, in order; undefined while there is no add pick. Pure: picks can be solved
 * again.
 */
export const windowsFromPicks = <W extends Windows>(
  spec: WindowSpec<W>,
  picks: readonly PickedColours[],
): W | undefined =>
  picks.reduce<W | undefined>((windows, pick, i) => windowsWithPick(spec, windows, pick, picks.slice(0, i)), undefined);
