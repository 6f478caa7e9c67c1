import type { OklabPlanes } from '../colour/oklabPlanes.ts';
import { boxMean } from '../matte/boxMean.ts';

/** What differs so much, OKLab, or so many times what pixels stray from what is round about them, differs much. */
const LEAST_CONTRAST = 0.07;
const LEAST_STRAYED = 2;
/** Side of the blocks of pixels whose means are taken together. */
const BLOCK = 4;

/**
 * By how much each pixel differs from what is round about it, `radius` pixels each way, on its own side of the mask: 1
 * and more is much.
 */
export function differences(
  mask: Float32Array,
  oklab: OklabPlanes,
  width: number,
  height: number,
  radius: number,
): Float32Array {
  const { L, a, b } = oklab;
  const out = new Float32Array(mask.length);
  const counts = new Uint8Array(mask.length);
  for (const side of [1, 0]) {
    for (let i = 0; i < mask.length; i++) counts[i] = mask[i]! >= 0.5 === (side === 1) ? 1 : 0;
    // the second and third time without what was found to differ
    for (let round = 0; round < 3; round++) {
      const about = blockMeans(oklab, counts, width, height, Math.round(radius / BLOCK));
      for (let y = 0, i = 0; y < height; y++)
        for (let x = 0, row = Math.floor(y / BLOCK) * about.width; x < width; x++, i++) {
          if (mask[i]! >= 0.5 !== (side === 1)) continue;
          const k = row + Math.floor(x / BLOCK);
          const dL = L[i]! - about.L[k]!;
          const da = a[i]! - about.a[k]!;
          const db = b[i]! - about.b[k]!;
          out[i] = Math.sqrt(dL * dL + da * da + db * db) / Math.max(LEAST_CONTRAST, LEAST_STRAYED * about.strays[k]!);
          counts[i] = out[i]! > 1 ? 0 : 1;
        }
    }
  }
  return out;
}

/** Mean colours of a square about each block, `radius` blocks each way, and how far pixels stray from them. */
function blockMeans({ L, a, b }: OklabPlanes, counts: Uint8Array, width: number, height: number, radius: number) {
  const [w, h] = [Math.ceil(width / BLOCK), Math.ceil(height / BLOCK)];
  const plane = () => new Float32Array(w * h);
  const [n, sumL, sumA, sumB, squares] = [plane(), plane(), plane(), plane(), plane()];
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0, row = Math.floor(y / BLOCK) * w; x < width; x++, i++) {
      if (counts[i] === 0) continue;
      const k = row + Math.floor(x / BLOCK);
      n[k]! += 1;
      sumL[k]! += L[i]!;
      sumA[k]! += a[i]!;
      sumB[k]! += b[i]!;
      squares[k]! += L[i]! * L[i]! + a[i]! * a[i]! + b[i]! * b[i]!;
    }
  const [all, mL, mA, mB, square] = [n, sumL, sumA, sumB, squares].map((sum) => boxMean(sum, w, h, radius));
  const strays = plane();
  for (let k = 0; k < strays.length; k++) {
    const share = Math.max(all![k]!, 1e-6);
    mL![k]! /= share;
    mA![k]! /= share;
    mB![k]! /= share;
    strays[k] = Math.sqrt(Math.max(square![k]! / share - mL![k]! ** 2 - mA![k]! ** 2 - mB![k]! ** 2, 0));
  }
  return { width: w, L: mL!, a: mA!, b: mB!, strays };
}
