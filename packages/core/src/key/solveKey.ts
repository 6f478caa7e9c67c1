import type { Encoding } from '../colour/encoding.ts';
import { lumaKeySpec, type LumaKey } from './lumaKey.ts';
import { RANGE_KEY_SPEC, type RangeKey } from './rangeKey.ts';
import { rgbKeySpec, type RgbKey } from './rgbKey.ts';
import { sampleKeyFromPicks, type SampleKey } from './sampleKey.ts';
import { windowsWithPick, type PickedColours } from './solveWindows.ts';

/** Every kind of key made from picked colours. */
export interface KeyByKind {
  range: RangeKey;
  rgb: RgbKey;
  luma: LumaKey;
  sample: SampleKey;
}
export type KeyKind = keyof KeyByKind;
export type Key = { [K in KeyKind]: { kind: K; key: KeyByKind[K] | null } }[KeyKind];
type Solve<K extends KeyKind> = (
  key: KeyByKind[K] | null,
  pick: PickedColours,
  earlier: readonly PickedColours[],
  encoding: Encoding,
) => KeyByKind[K] | null;

const SOLVERS: { [K in KeyKind]: Solve<K> } = {
  range: (key, pick, earlier) => windowsWithPick(RANGE_KEY_SPEC, key ?? undefined, pick, earlier) ?? null,
  rgb: (key, pick, earlier, encoding) => windowsWithPick(rgbKeySpec(encoding), key ?? undefined, pick, earlier) ?? null,
  luma: (key, pick, earlier, encoding) => {
    const of = key?.of ?? 'luma';
    // a luma key that only says what it reads has no window yet
    const windows = windowsWithPick(
      lumaKeySpec(of, encoding),
      key?.luma.on ? { luma: key.luma } : undefined,
      pick,
      earlier,
    );
    return windows ? { of, ...windows } : null;
  },
  sample: (key, pick, earlier) => sampleKeyFromPicks([...earlier, pick], key ?? undefined) ?? null,
};

/** A key after one more pick on top of what it is now, numbers set by hand included. `earlier` are the picks already in it. */
export const keyWithPick = <K extends KeyKind>(
  kind: K,
  key: KeyByKind[K] | null,
  pick: PickedColours,
  earlier: readonly PickedColours[],
  encoding: Encoding,
): KeyByKind[K] | null => SOLVERS[kind](key, pick, earlier, encoding);

/**
 * A key solved anew from all its picks: windows set by hand are forgotten; what a luma key reads and a sample key's
 * tolerance and softness are kept from `before`.
 */
export function keyFromPicks<K extends KeyKind>(
  kind: K,
  before: KeyByKind[K] | null,
  picks: readonly PickedColours[],
  encoding: Encoding,
): KeyByKind[K] | null {
  const kept = (key: KeyByKind[K] | null): KeyByKind[K] | null => {
    if (kind === 'sample') return before;
    if (kind === 'luma' && before)
      return { of: (before as LumaKey).of, luma: { on: false, lo: 0, hi: 0, softLo: 0, softHi: 0 } } as KeyByKind[K];
    return key;
  };
  return picks.reduce<KeyByKind[K] | null>(
    (key, pick, i) => keyWithPick(kind, key ?? kept(null), pick, picks.slice(0, i), encoding),
    null,
  );
}
