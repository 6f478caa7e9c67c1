/**
 * Sets `out` to 1 within `radius` pixels (a square's) of where α passes ½: some α about them reaches it and some does
 * not, as dilation differs from erosion. The rest of `out` is left. The cost does not depend on the radius.
 */
export function markEdgeBand(
  out: Uint8Array,
  alpha: Float32Array,
  width: number,
  height: number,
  radius: number,
): void {
  /** How many of a row's pixels within reach are inside. */
  const near = new Uint16Array(width * height);
  for (let y = 0; y < height; y++) {
    const row = y * width;
    let sum = 0;
    for (let x = -radius; x < width; x++) {
      if (x + radius < width && alpha[row + x + radius]! >= 0.5) sum++;
      if (x > radius && alpha[row + x - radius - 1]! >= 0.5) sum--;
      if (x >= 0) near[row + x] = sum;
    }
  }
  const sums = new Uint32Array(width);
  for (let y = -radius; y < height; y++) {
    if (y + radius < height) for (let x = 0, i = (y + radius) * width; x < width; x++, i++) sums[x]! += near[i]!;
    if (y > radius) for (let x = 0, i = (y - radius - 1) * width; x < width; x++, i++) sums[x]! -= near[i]!;
    if (y < 0) continue;
    const rows = Math.min(y + radius, height - 1) - Math.max(y - radius, 0) + 1;
    for (let x = 0, i = y * width; x < width; x++, i++) {
      const sum = sums[x]!;
      if (sum > 0 && sum < rows * (Math.min(x + radius, width - 1) - Math.max(x - radius, 0) + 1)) out[i] = 1;
    }
  }
}
