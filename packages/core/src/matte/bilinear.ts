/**
 * A plane read between its samples, bilinear. (x, y) counts samples from the first one's centre: 0 ≤ x < width − 1 and
 * 0 ≤ y < height − 1, which the caller sees to, each in its own way at the rim.
 */
export function bilinear(plane: Float32Array, width: number, x: number, y: number): number {
  const [ix, iy] = [x | 0, y | 0];
  const [fx, fy] = [x - ix, y - iy];
  const i = iy * width + ix;
  return (
    (1 - fy) * ((1 - fx) * plane[i]! + fx * plane[i + 1]!) +
    fy * ((1 - fx) * plane[i + width]! + fx * plane[i + width + 1]!)
  );
}
