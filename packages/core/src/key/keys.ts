import type { Encoding } from '../colour/encoding.ts';
import type { KeyByKind, KeyKind } from '../document/key.ts';
import type { KeyKindEntry, KeyWindow } from './kind.ts';
import { lumaKey } from './lumaKey.ts';
import { rangeKey } from './rangeKey.ts';
import { rgbKey } from './rgbKey.ts';
import { sampleKey } from './sampleKey.ts';
import type { PickedColours } from './solveWindows.ts';

/**
 * Every kind of key made from picked colours: adding one is its own file, its line here and its line in the document.
 */
export const KEYS: { readonly [K in KeyKind]: KeyKindEntry<K> } = {
  range: rangeKey,
  rgb: rgbKey,
  luma: lumaKey,
  sample: sampleKey,
};
export const KEY_KINDS = Object.keys(KEYS) as KeyKind[];

/**
 * A key after one more pick on top of what it is now, numbers set by hand included. `earlier` are the picks already in
 * it.
 */
export const keyWithPick = <K extends KeyKind>(
  kind: K,
  key: KeyByKind[K] | null,
  pick: PickedColours,
  earlier: readonly PickedColours[],
  encoding: Encoding,
): KeyByKind[K] | null => KEYS[kind].withPick(key, pick, earlier, encoding);

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
  const { withPick, kept } = KEYS[kind];
  return picks.reduce<KeyByKind[K] | null>(
    (key, pick, i) => withPick(key ?? kept(before), pick, picks.slice(0, i), encoding),
    null,
  );
}

/** The windows of a key, in the order its controls show them. */
export const windowsOf = <K extends KeyKind>(kind: K, key: KeyByKind[K]): KeyWindow[] => KEYS[kind].windows(key);
