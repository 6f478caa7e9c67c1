/**
 * Distance to the outline, samples: positive inside, not exact past what is looked at. A chamfer distance (G.
 * Borgefors, "Distance transformations in digital images", 1986).
 */
export function signedDistance(mask: Float32Array, width: number, height: number): Float32Array {
  const out = new Float32Array(mask.length);
  const isIn = new Uint8Array(mask.length);
  for (let i = 0; i < mask.length; i++) isIn[i] = mask[i]! >= 0.5 ? 1 : 0;
  // the outline lies half a sample before the first on the other side
  for (let y = 0; y < height; y++) {
    const [up, down] = [y > 0 ? -width : 0, y + 1 < height ? width : 0];
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      const own = isIn[i]!;
      const left = x > 0 ? i - 1 : i;
      const right = x + 1 < width ? i + 1 : i;
      const sides = isIn[left]! + isIn[right]! + isIn[i + up]! + isIn[i + down]!;
      const corners = isIn[left + up]! + isIn[right + up]! + isIn[left + down]! + isIn[right + down]!;
      if (sides !== 4 * own) out[i] = 0.5;
      else out[i] = corners !== 4 * own ? Math.SQRT2 - 0.5 : FAR;
    }
  }
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      let d = out[i]!;
      if (x > 0) d = Math.min(d, out[i - 1]! + 1);
      if (y > 0) {
        d = Math.min(d, out[i - width]! + 1);
        if (x > 0) d = Math.min(d, out[i - width - 1]! + DIAGONAL);
        if (x + 1 < width) d = Math.min(d, out[i - width + 1]! + DIAGONAL);
      }
      out[i] = d;
    }
  for (let y = height - 1; y >= 0; y--)
    for (let x = width - 1; x >= 0; x--) {
      const i = y * width + x;
      let d = out[i]!;
      if (x + 1 < width) d = Math.min(d, out[i + 1]! + 1);
      if (y + 1 < height) {
        d = Math.min(d, out[i + width]! + 1);
        if (x + 1 < width) d = Math.min(d, out[i + width + 1]! + DIAGONAL);
        if (x > 0) d = Math.min(d, out[i + width - 1]! + DIAGONAL);
      }
      out[i] = d;
    }
  for (let i = 0; i < out.length; i++) if (isIn[i] === 0) out[i] = -out[i]!;
  return out;
}
const [FAR, DIAGONAL] = [1e6, 1.4];
