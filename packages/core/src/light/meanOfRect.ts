import type { LinearPlanes } from '../colour/planes.ts';

/** Half the side of what a click without a drag takes, full-resolution pixels. */
const CLICK_PX = 6;

/**
 * The mean light of a rectangle in full-resolution pixels, of a picture `scale` times as large; a rectangle too small
 * to be meant as one is taken as a small square round it. It is cut to the picture: at least one pixel is there.
 */
export function meanOfRect(
  { r, g, b }: LinearPlanes,
  { width, height }: { width: number; height: number },
  rect: { x0: number; y0: number; x1: number; y1: number },
  scale: number,
): [number, number, number] {
  const span = (from: number, to: number, size: number): [number, number] => {
    const isClick = Math.abs(to - from) < 3;
    const middle = (from + to) / 2;
    const [low, high] = isClick ? [middle - CLICK_PX, middle + CLICK_PX] : [Math.min(from, to), Math.max(from, to)];
    const first = Math.min(Math.max(Math.floor(low * scale), 0), size - 1);
    return [first, Math.min(Math.max(Math.ceil(high * scale), first + 1), size)];
  };
  const [x0, x1] = span(rect.x0, rect.x1, width);
  const [y0, y1] = span(rect.y0, rect.y1, height);
  const sum: [number, number, number] = [0, 0, 0];
  for (let y = y0; y < y1; y++)
    for (let x = x0; x < x1; x++) {
      const i = y * width + x;
      sum[0] += r[i]!;
      sum[1] += g[i]!;
      sum[2] += b[i]!;
    }
  const n = (x1 - x0) * (y1 - y0);
  return [sum[0] / n, sum[1] / n, sum[2] / n];
}
