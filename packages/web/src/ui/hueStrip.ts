import { linear709FromOklab, oklabFromOklch, srgbCodeFromLinear } from '@mellow/core';

/** CSS colours of hues evenly spread round OKLCh, all of one lightness and chroma. */
export const hueStrip = (steps: number): string[] =>
  Array.from({ length: steps }, (_, i) => {
    const rgb = linear709FromOklab(oklabFromOklch({ L: 0.65, C: 0.11, hDeg: ((i + 0.5) * 360) / steps }));
    return `rgb(${rgb.map((v) => Math.round(255 * srgbCodeFromLinear(v))).join()})`;
  });
