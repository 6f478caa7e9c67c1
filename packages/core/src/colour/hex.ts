import { codeFromLinear, linearFromCode } from './encoding.ts';
import { labFromLinear709, linear709FromLab, type Lab } from './lab.ts';

/** Lab (D65) of an sRGB hex value such as `#e0a030` or `#ea3`; undefined when it is not one. */
export function labFromHex(hex: string): Lab | undefined {
  const digits = /^#?([0-9a-f]{3}|[0-9a-f]{6})$/i.exec(hex.trim())?.[1];
  if (!digits) return undefined;
  const wide = digits.length === 3 ? digits.replaceAll(/./g, '$&$&') : digits;
  const channel = (i: number) => linearFromCode('srgb', parseInt(wide.slice(2 * i, 2 * i + 2), 16) / 255);
  return labFromLinear709([channel(0), channel(1), channel(2)]);
}

/** sRGB hex of linear BT.709 light, clipped to the gamut for display. */
export function hexFromLinear709(rgb: readonly number[]): string {
  return `#${rgb
    .map((v) => Math.round(255 * Math.min(Math.max(codeFromLinear('srgb', v), 0), 1)))
    .map((code) => code.toString(16).padStart(2, '0'))
    .join('')}`;
}

/** sRGB hex that shows a Lab (D65) value, clipped to the gamut. */
export const hexFromLab = (lab: Lab): string => hexFromLinear709(linear709FromLab(lab));
