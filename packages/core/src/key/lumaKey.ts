import type { LumaKey, Window } from '../document/key.ts';
import type { Encoding } from '../colour/encoding.ts';
import type { Oklab } from '../colour/oklab.ts';
import { encodedOf } from './rgbKey.ts';
import { unitWindow, type KeyKindEntry, type KeyPicture } from './kind.ts';
import { windowsWithPick, type WindowSpec } from './solveWindows.ts';
import { windowAt } from './window.ts';

/** Y′ = 0.2126 R′ + 0.7152 G′ + 0.0722 B′, Rec. ITU-R BT.709-6 item 3.2. */
export const lumaOf = (r: number, g: number, b: number): number => 0.2126 * r + 0.7152 * g + 0.0722 * b;

/** The key over planes of encoded values, or over OKLab: whichever it reads is asked for. */
export function lumaKeyInto(out: Float32Array, { encoded, oklab }: KeyPicture, key: LumaKey): void {
  if (key.of === 'lightness') {
    const { L } = oklab();
    for (let i = 0; i < out.length; i++) out[i] = windowAt(key.luma, L[i]!);
    return;
  }
  const { r, g, b } = encoded();
  for (let i = 0; i < out.length; i++) out[i] = windowAt(key.luma, lumaOf(r[i]!, g[i]!, b[i]!));
}

/** How picks set a luma key in a shot of this encoding. */
export function lumaKeySpec(of: LumaKey['of'], encoding: Encoding): WindowSpec<{ luma: Window }> {
  const value = (s: Oklab) => (of === 'lightness' ? s.L : lumaOf(...encodedOf(s, encoding)));
  return {
    channels: [{ name: 'luma', margin: 0.06, soft: 0.08, of: value }],
    at: ({ luma }, s) => windowAt(luma, value(s)),
  };
}

const NO_WINDOW: Window = { on: false, lo: 0, hi: 0, softLo: 0, softHi: 0 };

/** The kind's place in the table of keys. */
export const lumaKey: KeyKindEntry<'luma'> = {
  label: 'Luma key',
  into: (out, picture, key) => lumaKeyInto(out, picture, key),
  withPick: (key, pick, earlier, encoding) => {
    const of = key?.of ?? 'luma';
    // a luma key that only says what it reads has no window yet
    const before = key?.luma.on ? { luma: key.luma } : undefined;
    const windows = windowsWithPick(lumaKeySpec(of, encoding), before, pick, earlier);
    return windows ? { of, ...windows } : null;
  },
  kept: (before) => before && { of: before.of, luma: NO_WINDOW },
  windows: ({ of, luma }) => [unitWindow('luma', of === 'luma' ? 'Luma' : 'Lightness', luma, of)],
};
