import type { SizedPicture } from './preparedPicture.ts';

/** Side of the blocks that grain is looked for in, and how many of them, the evenest, have nothing else. */
const BLOCK = 8;
const EVEN = 0.1;

/** By how much pixels side by side differ through grain alone, OKLab: as they do where a picture is evenest. */
export function grainOf({ width, height, oklab }: SizedPicture): number {
  const { L, a, b } = oklab;
  const means: number[] = [];
  for (let y = 0; y + BLOCK <= height; y += BLOCK)
    for (let x = 0; x + BLOCK < width; x += BLOCK) {
      let sum = 0;
      for (let v = y; v < y + BLOCK; v++)
        for (let i = v * width + x; i < v * width + x + BLOCK; i++)
          sum += Math.sqrt((L[i]! - L[i + 1]!) ** 2 + (a[i]! - a[i + 1]!) ** 2 + (b[i]! - b[i + 1]!) ** 2);
      // where nothing differs at all it is clipped, or a border
      if (sum > 0) means.push(sum / BLOCK ** 2);
    }
  return means.sort((p, q) => p - q)[Math.floor(EVEN * means.length)] ?? 0;
}
