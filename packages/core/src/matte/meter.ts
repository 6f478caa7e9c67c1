import { connectedComponents } from './components.ts';

/** What a colorist wants to know of a matte before trusting it. Shares are 0..1. */
export interface MatteMeter {
  /** Mean α over the picture. */
  shareOfPicture: number;
  /** Of the pixels that are selected at all, how many only partly (2 % < α < 98 %). */
  partlyShare: number;
  /** Separate regions of α ≥ 0.5, and empty regions enclosed by them. */
  islands: number;
  holes: number;
  /** Share of the pixels with α ≥ 0.5 whose source has a channel at the end of its range. */
  clippedShare: number;
}

const PARTLY = 0.02;

export function meterMatte(
  alpha: Float32Array,
  width: number,
  height: number,
  isClipped: (index: number) => boolean,
): MatteMeter {
  let [sum, some, partly, solid, clipped] = [0, 0, 0, 0, 0];
  const mask = new Uint8Array(alpha.length);
  const rest = new Uint8Array(alpha.length);
  for (let i = 0; i < alpha.length; i++) {
    const a = alpha[i]!;
    sum += a;
    if (a > PARTLY) some++;
    if (a > PARTLY && a < 1 - PARTLY) partly++;
    if (a >= 0.5) {
      mask[i] = 1;
      solid++;
      if (isClipped(i)) clipped++;
    } else rest[i] = 1;
  }
  const outside = connectedComponents(rest, width, height, false);
  const touchesBorder = new Uint8Array(outside.count + 1);
  for (let x = 0; x < width; x++)
    touchesBorder[outside.labels[x]!] = touchesBorder[outside.labels[(height - 1) * width + x]!] = 1;
  for (let y = 0; y < height; y++)
    touchesBorder[outside.labels[y * width]!] = touchesBorder[outside.labels[y * width + width - 1]!] = 1;
  let holes = 0;
  for (let label = 1; label <= outside.count; label++) if (!touchesBorder[label]) holes++;
  return {
    shareOfPicture: sum / alpha.length,
    partlyShare: some === 0 ? 0 : partly / some,
    islands: connectedComponents(mask, width, height, true).count,
    holes,
    clippedShare: solid === 0 ? 0 : clipped / solid,
  };
}
