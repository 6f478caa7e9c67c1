import type { RgbKey } from '../document/key.ts';
import { codesFromLinear709, type Encoding } from '../colour/encoding.ts';
import { linear709FromOklab, type Oklab } from '../colour/oklab.ts';
import type { EncodedPlanes } from '../colour/planes.ts';
import { unitWindow, type KeyKindEntry } from './kind.ts';
import { windowsWithPick, type WindowSpec } from './solveWindows.ts';
import { windowAt } from './window.ts';

/** α of one encoded colour: the product of the three windows. */
export const rgbKeyAt = (key: RgbKey, r: number, g: number, b: number): number =>
  windowAt(key.red, r) * windowAt(key.green, g) * windowAt(key.blue, b);

/** `rgbKeyAt` over planes of encoded values. */
export function rgbKeyInto(out: Float32Array, { r, g, b }: EncodedPlanes, key: RgbKey): void {
  for (let i = 0; i < out.length; i++) out[i] = rgbKeyAt(key, r[i]!, g[i]!, b[i]!);
}

/** Encoded red, green, blue (0..1) of a picked colour. */
export function encodedOf(sample: Oklab, encoding: Encoding): [number, number, number] {
  return codesFromLinear709(encoding, linear709FromOklab(sample));
}

/** How picks set an RGB key in a shot of this encoding. */
export function rgbKeySpec(encoding: Encoding): WindowSpec<RgbKey> {
  const channel = (name: 'red' | 'green' | 'blue', i: 0 | 1 | 2) => ({
    name,
    margin: 0.05,
    soft: 0.08,
    of: (s: Oklab) => encodedOf(s, encoding)[i],
  });
  return {
    channels: [channel('red', 0), channel('green', 1), channel('blue', 2)],
    at: (key, s) => rgbKeyAt(key, ...encodedOf(s, encoding)),
  };
}

/** The kind's place in the table of keys. */
export const rgbKey: KeyKindEntry<'rgb'> = {
  label: 'RGB key',
  into: (out, picture, key) => rgbKeyInto(out, picture.encoded(), key),
  withPick: (key, pick, earlier, encoding) =>
    windowsWithPick(rgbKeySpec(encoding), key ?? undefined, pick, earlier) ?? null,
  kept: () => null,
  windows: ({ red, green, blue }) => [
    unitWindow('red', 'Red', red, 'red'),
    unitWindow('green', 'Green', green, 'green'),
    unitWindow('blue', 'Blue', blue, 'blue'),
  ],
};
