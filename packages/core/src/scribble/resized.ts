/** A plane made smaller by the mean over each target pixel's area. */
export function shrunk(
  plane: Float32Array,
  width: number,
  height: number,
  toWidth: number,
  toHeight: number,
): Float32Array {
  if (toWidth === width && toHeight === height) return plane;
  const across = new Float32Array(toWidth * height);
  for (let x = 0; x < toWidth; x++) {
    const { first, weights } = overlap(x, width / toWidth, width);
    for (let y = 0; y < height; y++) {
      let sum = 0;
      for (let k = 0; k < weights.length; k++) sum += weights[k]! * plane[y * width + first + k]!;
      across[y * toWidth + x] = sum;
    }
  }
  const out = new Float32Array(toWidth * toHeight);
  for (let y = 0; y < toHeight; y++) {
    const { first, weights } = overlap(y, height / toHeight, height);
    for (let k = 0; k < weights.length; k++) {
      const w = weights[k]!;
      const from = (first + k) * toWidth;
      for (let x = 0, o = y * toWidth; x < toWidth; x++, o++) out[o] = out[o]! + w * across[from + x]!;
    }
  }
  return out;
}
/** Which samples a target pixel covers, and what share of it each fills. */
function overlap(at: number, ratio: number, length: number): { first: number; weights: number[] } {
  const [lo, hi] = [at * ratio, Math.min((at + 1) * ratio, length)];
  const first = Math.floor(lo);
  const weights: number[] = [];
  for (let i = first; i < Math.ceil(hi - 1e-9); i++) weights.push((Math.min(i + 1, hi) - Math.max(i, lo)) / ratio);
  return { first, weights };
}

/** A plane made larger, bilinear between sample centres, its rim repeated. */
export function enlarged(
  plane: Float32Array,
  width: number,
  height: number,
  toWidth: number,
  toHeight: number,
): Float32Array {
  if (toWidth === width && toHeight === height) return plane;
  const out = new Float32Array(toWidth * toHeight);
  for (let y = 0; y < toHeight; y++) {
    const v = Math.min(Math.max(((y + 0.5) * height) / toHeight - 0.5, 0), height - 1);
    const top = Math.floor(v);
    const fy = v - Math.floor(v);
    const below = Math.min(top + 1, height - 1);
    for (let x = 0; x < toWidth; x++) {
      const u = Math.min(Math.max(((x + 0.5) * width) / toWidth - 0.5, 0), width - 1);
      const left = Math.floor(u);
      const fx = u - left;
      const right = Math.min(left + 1, width - 1);
      out[y * toWidth + x] =
        (1 - fy) * ((1 - fx) * plane[top * width + left]! + fx * plane[top * width + right]!) +
        fy * ((1 - fx) * plane[below * width + left]! + fx * plane[below * width + right]!);
    }
  }
  return out;
}
