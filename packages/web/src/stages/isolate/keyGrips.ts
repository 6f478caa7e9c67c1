import { turnDeg, wrapDeg, type RangeKey } from '@mellow/core';

/** What can be held on the key field. */
export type KeyGrip =
  'hueLo' | 'hueHi' | 'softLo' | 'softHi' | 'chromaLo' | 'chromaHi' | 'chromaSoftLo' | 'chromaSoftHi';
const LEAST_HUE_DEG = 2;
const LEAST_CHROMA = 0.004;

/** The key after a grip has been dragged to a hue and chroma. Cores keep a least width, margins never go below 0. */
export function moved(key: RangeKey, grip: KeyGrip, to: { C: number; hDeg: number }): RangeKey {
  const { hue, chroma } = key;
  const span = hue.hi - hue.lo;
  switch (grip) {
    case 'hueLo': {
      const width = Math.min(Math.max(span - turnDeg(hue.lo, to.hDeg), LEAST_HUE_DEG), 360);
      const lo = wrapDeg(hue.hi - width);
      return { ...key, hue: { ...hue, lo, hi: lo + width } };
    }
    case 'hueHi':
      return {
        ...key,
        hue: { ...hue, hi: hue.lo + Math.min(Math.max(span + turnDeg(hue.hi, to.hDeg), LEAST_HUE_DEG), 360) },
      };
    case 'softLo':
      return { ...key, hue: { ...hue, softLo: Math.max(turnDeg(to.hDeg, hue.lo), 0) } };
    case 'softHi':
      return { ...key, hue: { ...hue, softHi: Math.max(turnDeg(hue.hi, to.hDeg), 0) } };
    case 'chromaLo':
      return { ...key, chroma: { ...chroma, lo: Math.min(Math.max(to.C, 0), chroma.hi - LEAST_CHROMA) } };
    case 'chromaSoftLo':
      return { ...key, chroma: { ...chroma, softLo: Math.max(chroma.lo - to.C, 0) } };
    case 'chromaSoftHi':
      return { ...key, chroma: { ...chroma, softHi: Math.max(to.C - chroma.hi, 0) } };
    case 'chromaHi':
      return { ...key, chroma: { ...chroma, hi: Math.max(to.C, chroma.lo + LEAST_CHROMA) } };
  }
}
