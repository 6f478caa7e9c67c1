import type { Encoding } from '../colour/encoding.ts';
import type { Oklab } from '../colour/oklab.ts';
import type { OklabPlanes } from '../colour/oklabPlanes.ts';
import type { EncodedPlanes } from '../colour/planes.ts';
import { encodedOf } from './rgbKey.ts';
import type { WindowSpec } from './solveWindows.ts';
import { windowAt, type Window } from './window.ts';

/** One window on how light the picture is: `luma` = Y′ of the encoded values, `lightness` = OKLab L. */
export interface LumaKey {
  of: 'luma' | 'lightness';
  luma: Window;
}

/** Y′ = 0.2126 R′ + 0.7152 G′ + 0.0722 B′, Rec. ITU-R BT.709-6 item 3.2. */
export const lumaOf = (r: number, g: number, b: number): number => 0.2126 * r + 0.7152 * g + 0.0722 * b;

/** The key over planes of encoded values, or over OKLab: whichever it reads is asked for. */
export function lumaKeyInto(
  out: Float32Array,
  encoded: () => EncodedPlanes,
  oklab: () => OklabPlanes,
  key: LumaKey,
): void {
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
