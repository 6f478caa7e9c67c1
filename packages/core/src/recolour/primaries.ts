import { IDENTITY, multiply, scaled, transform, type Matrix3, type Triple } from '../colour/matrix3.ts';
import { linearFromSrgb, srgbFromLinear } from '../colour/srgb.ts';
import type { Primaries, Rgb } from '../document/finer.ts';
import { cdlSaturation, cdlChannel, whiteMatrix } from '../light/balance.ts';

/** One colour of linear BT.709 light, changed in place. */
export type InPlace = (rgb: Float64Array) => void;

const ofRgb = ({ red, green, blue }: Rgb): Triple => [red, green, blue];
const isEvery = ({ red, green, blue }: Rgb, v: number) => red === v && green === v && blue === v;

/** What of the primaries is linear in light: exposure, warmth and tint, gain by channel. */
export function primaryMatrix({ exposureStops, warmthMired, tint, gain }: Primaries): Matrix3 {
  const white = warmthMired === 0 && tint === 0 ? IDENTITY : whiteMatrix(warmthMired, tint);
  const channels: Matrix3 = [gain.red, 0, 0, 0, gain.green, 0, 0, 0, gain.blue];
  return scaled(multiply(channels, white), 2 ** exposureStops);
}

/**
 * The rest: slope, offset and power of each channel, then saturation, after ASC CDL v1.2. They act on sRGB codes (IEC
 * 61966-2-1) whatever the shot's encoding, so that a recipe does the same in every shot; highlights past 1 live on.
 * Undefined where it changes nothing.
 */
export function cdlOf({ slope, offset, power, saturation }: Primaries): InPlace | undefined {
  if (isEvery(slope, 1) && isEvery(offset, 0) && isEvery(power, 1) && saturation === 1) return undefined;
  const [s, o, p] = [ofRgb(slope), ofRgb(offset), ofRgb(power)];
  return (rgb) => {
    for (let c = 0; c < 3; c++) rgb[c] = cdlChannel(srgbFromLinear(rgb[c]!), s[c]!, o[c]!, p[c]!);
    cdlSaturation(rgb, saturation);
    for (let c = 0; c < 3; c++) rgb[c] = linearFromSrgb(rgb[c]!);
  };
}

/** All primaries of one colour; undefined where they change nothing. */
export function primariesOf(primaries: Primaries): InPlace {
  const matrix = primaryMatrix(primaries);
  const cdl = cdlOf(primaries);
  return (rgb) => {
    const next = transform(matrix, [rgb[0]!, rgb[1]!, rgb[2]!]);
    rgb.set(next);
    cdl?.(rgb);
  };
}
