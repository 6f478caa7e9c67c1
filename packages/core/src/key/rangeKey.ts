import type { RangeKey, Window } from '../document/key.ts';
import { fastAngleDeg } from '../colour/angle.ts';
import { oklchFromOklab, type Oklab } from '../colour/oklab.ts';
import type { OklabPlanes } from '../colour/oklabPlanes.ts';
import { blockOf, byBlocks } from '../kernels/blocks.ts';
import { unitWindow, type KeyKindEntry } from './kind.ts';
import { windowsWithPick, type WindowSpec } from './solveWindows.ts';
import { HUE_FADE_CHROMA, hueWindowAt, smoothstep, windowAt } from './window.ts';

/** α of one colour, 0..1: the product of the three windows. */
export function rangeKeyAt(key: RangeKey, { L, a, b }: Oklab): number {
  const light = windowAt(key.lightness, L);
  if (light === 0) return 0;
  const C = Math.hypot(a, b);
  const chroma = windowAt(key.chroma, C);
  if (chroma === 0) return 0;
  if (!key.hue.on) return light * chroma;
  const hue = hueWindowAt(key.hue, (Math.atan2(b, a) * 180) / Math.PI);
  return light * chroma * hue * smoothstep(C / HUE_FADE_CHROMA);
}

/** Bounds outside which a window is surely 0; everything when it is off. */
const reach = (w: Window): [number, number] => (w.on ? [w.lo - w.softLo, w.hi + w.softHi] : [-Infinity, Infinity]);

const DEG = 180 / Math.PI;
/** Keeps a hair more than the hue reach, so that rounding never cuts off what the exact window lets in. */
const SECTOR_SLACK_DEG = 0.01;
/** The same of the kernel, whose test is by a cosine, in single floats. */
const KERNEL_SLACK_DEG = 1;

/**
 * A quick test whether a hue lies in a window's reach, from the signs of two cross products: no angle is computed.
 * `narrow` tells whether the reach is at most a half turn (both signs must agree) or more (one is enough).
 */
function sectorOf(hue: Window): { x0: number; y0: number; x1: number; y1: number; narrow: boolean; all: boolean } {
  const [from, to] = reach(hue);
  const [lo, hi] = [(from - SECTOR_SLACK_DEG) / DEG, (to + SECTOR_SLACK_DEG) / DEG];
  return {
    x0: Math.cos(lo),
    y0: Math.sin(lo),
    x1: Math.cos(hi),
    y1: Math.sin(hi),
    narrow: hi - lo <= Math.PI,
    all: !hue.on || hi - lo >= 2 * Math.PI,
  };
}

/** 1 over the width of a window's soft side; of a hard one, about as much as a float holds. */
const steep = (soft: number): number => 1 / Math.max(soft, 1e-38);
const FAR = 1e30;
/** A window as the kernel takes it. */
const numbersOf = (w: Window): number[] => (w.on ? [w.lo, w.hi, steep(w.softLo), steep(w.softHi)] : [-FAR, FAR, 1, 1]);

/** Cosine and sine of the middle of a window's hues, and the cosine of how far it reaches: −2 where it has no end. */
function hueReach(hue: Window): [cosine: number, sine: number, reach: number] {
  const [from, to] = [hue.lo - hue.softLo, hue.hi + hue.softHi];
  const half = (to - from) / 2 + KERNEL_SLACK_DEG;
  const middle = (from + to) / 2 / DEG;
  return [Math.cos(middle), Math.sin(middle), half < 180 ? Math.cos(half / DEG) : -2];
}

/** A range key as the kernel takes it. */
export const rangeKeyNumbers = ({ hue, chroma, lightness }: RangeKey): number[] => [
  ...numbersOf(lightness),
  ...numbersOf(chroma),
  hue.lo,
  hue.hi - hue.lo,
  steep(hue.softLo),
  steep(hue.softHi),
  1 / HUE_FADE_CHROMA,
  ...hueReach(hue),
];

/** `rangeKeyAt` over a picture, within 5e-5 where no window is hard (tested). */
export function rangeKeyInto(out: Float32Array, picture: OklabPlanes, key: RangeKey): void {
  const windows = rangeKeyNumbers(key);
  const isDone = byBlocks([picture.L, picture.a, picture.b], [[3, out]], ({ rangeKey: run, floats }, n) =>
    run(n, blockOf(0), blockOf(1), blockOf(2), blockOf(3), floats(windows), key.hue.on ? 1 : 0),
  );
  if (!isDone) rangeKeyBySamples(out, picture, key);
}

/** The same sample by sample. Pixels outside the reach of a window cost no root and no angle. */
export function rangeKeyBySamples(out: Float32Array, { L, a, b }: OklabPlanes, key: RangeKey): void {
  const [minL, maxL] = reach(key.lightness);
  const [minC, maxC] = reach(key.chroma);
  const minC2 = minC > 0 ? minC * minC : -1;
  const maxC2 = maxC * maxC;
  const { hue, chroma, lightness } = key;
  const { x0, y0, x1, y1, narrow, all } = sectorOf(hue);
  for (let i = 0; i < out.length; i++) {
    const l = L[i]!;
    const x = a[i]!;
    const y = b[i]!;
    const c2 = x * x + y * y;
    out[i] = 0;
    if (l < minL || l > maxL || c2 < minC2 || c2 > maxC2) continue;
    if (!all) {
      const afterLo = x0 * y - y0 * x >= 0;
      const beforeHi = y1 * x - x1 * y >= 0;
      if (narrow ? !(afterLo && beforeHi) : !(afterLo || beforeHi)) continue;
    }
    const C = Math.sqrt(c2);
    const alpha = windowAt(lightness, l) * windowAt(chroma, C);
    out[i] =
      hue.on && alpha > 0 ? alpha * hueWindowAt(hue, fastAngleDeg(y, x)) * smoothstep(C / HUE_FADE_CHROMA) : alpha;
  }
}

/** How picks set a range key. Margins in degrees, chroma and lightness. */
export const RANGE_KEY_SPEC: WindowSpec<RangeKey> = {
  channels: [
    { name: 'hue', margin: 7, soft: 12, wraps: true, of: (s) => oklchFromOklab(s).hDeg },
    { name: 'chroma', margin: 0.025, soft: 0.035, of: (s) => Math.hypot(s.a, s.b) },
    { name: 'lightness', margin: 0.07, soft: 0.08, of: (s) => s.L },
  ],
  at: rangeKeyAt,
};

/**
 * Does a soft edge of the key run over the neutral axis? Then greys are partly selected and flicker with the noise. The
 * hue test fades out there, so it is the chroma window that must keep clear of it.
 */
export const crossesNeutral = ({ hue, chroma }: RangeKey): boolean =>
  (hue.on || chroma.on) && (!chroma.on || chroma.lo - chroma.softLo < HUE_FADE_CHROMA / 2);

/** The kind's place in the table of keys. */
export const rangeKey: KeyKindEntry<'range'> = {
  label: 'Range key',
  into: (out, picture, key) => {
    if (!picture.rangeKey?.(out, key)) rangeKeyInto(out, picture.oklab(), key);
  },
  withPick: (key, pick, earlier) => windowsWithPick(RANGE_KEY_SPEC, key ?? undefined, pick, earlier) ?? null,
  kept: () => null,
  windows: ({ hue, chroma, lightness }) => [
    { name: 'hue', label: 'Hue °', window: hue, max: 720, step: 1, digits: 1 },
    { name: 'chroma', label: 'Chroma', window: chroma, max: 0.5, step: 0.005, digits: 3 },
    unitWindow('lightness', 'Lightness', lightness, 'lightness'),
  ],
};
