import type { InPlace } from './primaries.ts';

/**
 * `concentration` times as much dye, after Beer–Lambert's law: each channel of a body that reflects `x` of a white of 1
 * reflects x^c of it. More dye is richer and darker, less is paler and lighter. Whites and blacks stay; past white
 * nothing changes. In place.
 */
export function dyeOf(concentration: number): InPlace {
  return (rgb) => {
    for (let c = 0; c < 3; c++) if (rgb[c]! > 0 && rgb[c]! < 1) rgb[c] = rgb[c]! ** concentration;
  };
}
