import type { Encoding } from '../colour/encoding.ts';
import type { LumaKey } from './lumaKey.ts';
import { lumaKeySpec } from './lumaKey.ts';
import { RANGE_KEY_SPEC, type RangeKey } from './rangeKey.ts';
import { rgbKeySpec, type RgbKey } from './rgbKey.ts';
import { sampleKeyFromPicks, type SampleKey } from './sampleKey.ts';
import { windowsFromPicks, windowsWithPick, type PickedColours } from './solveWindows.ts';

/** Every kind of key made from picked colours. */
export type Key = { kind: 'range'; key: RangeKey | null } | { kind: 'rgb'; key: RgbKey | null } | { kind: 'luma'; key: LumaKey | null } | { kind: 'sample'; key: SampleKey | null };
export const KEY_KINDS = ['range', 'rgb', 'luma', 'sample'] as const;

/** A key after one more pick on top of what it is now, numbers set by hand included. `earlier` are the picks already in it. */
export function keyWithPick<K extends Key>(key: K, pick: PickedColours, earlier: readonly PickedColours[], encoding: Encoding): K['key'] {
  switch (key.kind) {
    case 'range':
      return windowsWithPick(RANGE_KEY_SPEC, key.key ?? undefined, pick, earlier) ?? null;
    case 'rgb':
      return windowsWithPick(rgbKeySpec(encoding), key.key ?? undefined, pick, earlier) ?? null;
    case 'luma': {
      const of = key.key?.of ?? 'luma';
      const windows = windowsWithPick(lumaKeySpec(of, encoding), key.key ? { luma: key.key.luma } : undefined, pick, earlier);
      return windows ? { of, ...windows } : null;
    }
    case 'sample':
      return sampleKeyFromPicks([...earlier, pick], key.key ?? undefined) ?? null;
  }
}

/** A key solved anew from all its picks: what was set by hand is forgotten, but for a sample key's tolerance. */
export function keyFromPicks<K extends Key>(key: K, picks: readonly PickedColours[], encoding: Encoding): K['key'] {
  switch (key.kind) {
    case 'range':
      return windowsFromPicks(RANGE_KEY_SPEC, picks) ?? null;
    case 'rgb':
      return windowsFromPicks(rgbKeySpec(encoding), picks) ?? null;
    case 'luma': {
      const of = key.key?.of ?? 'luma';
      const windows = windowsFromPicks(lumaKeySpec(of, encoding), picks);
      return windows ? { of, ...windows } : null;
    }
    case 'sample':
      return sampleKeyFromPicks(picks, key.key ?? undefined) ?? null;
  }
}
