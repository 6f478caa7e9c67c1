/**
 * Mean over a (2·radius + 1)² window cut to the picture, by running sums: the cost does not depend on the radius.
 * `out` must not be `plane`.
 */
export function boxMeanInto(
  out: Float32Array,
  plane: Float32Array,
  width: number,
  height: number,
  radius: number,
): void {
  const across = new Float32Array(plane.length);
  for (let y = 0; y < height; y++) {
    const row = y * width;
    let sum = 0;
    for (let x = 0; x < Math.min(radius, width); x++) sum += plane[row + x]!;
    for (let x = 0; x < width; x++) {
      if (x + radius < width) sum += plane[row + x + radius]!;
      if (x - radius - 1 >= 0) sum -= plane[row + x - radius - 1]!;
      across[row + x] = sum / (Math.min(x + radius, width - 1) - Math.max(x - radius, 0) + 1);
    }
  }
  const sums = new Float64Array(width);
  const add = (y: number, sign: number) => {
    for (let x = 0; x < width; x++) sums[x] = sums[x]! + sign * across[y * width + x]!;
  };
  for (let y = 0; y < Math.min(radius, height); y++) add(y, 1);
  for (let y = 0; y < height; y++) {
    if (y + radius < height) add(y + radius, 1);
    if (y - radius - 1 >= 0) add(y - radius - 1, -1);
    const rows = Math.min(y + radius, height - 1) - Math.max(y - radius, 0) + 1;
    for (let x = 0; x < width; x++) out[y * width + x] = sums[x]! / rows;
  }
}

/** The same in a new plane. */
export function boxMean(plane: Float32Array, width: number, height: number, radius: number): Float32Array {
  const out = new Float32Array(plane.length);
  boxMeanInto(out, plane, width, height, radius);
  return out;
}

/**
 * Guided filter: smooths `plane` where the guide is smooth and keeps its edges where the guide has edges.
 * K. He, J. Sun, X. Tang, "Guided Image Filtering" (ECCV 2010, PAMI 2013), Algorithm 1. `radius` in samples; `epsilon`
 * is the variance of the guide below which it counts as smooth. In place.
 */
export function guidedFilterInPlace(
  plane: Float32Array,
  guide: Float32Array,
  width: number,
  height: number,
  radius: number,
  epsilon: number,
): void {
  const n = plane.length;
  const product = new Float32Array(n);
  const mean = (of: Float32Array) => boxMean(of, width, height, radius);
  const meanGuide = mean(guide);
  const meanPlane = mean(plane);
  for (let i = 0; i < n; i++) product[i] = guide[i]! * plane[i]!;
  const corrGuidePlane = mean(product);
  for (let i = 0; i < n; i++) product[i] = guide[i]! * guide[i]!;
  const corrGuide = mean(product);
  const a = corrGuidePlane;
  const b = corrGuide;
  for (let i = 0; i < n; i++) {
    const I = meanGuide[i]!;
    const p = meanPlane[i]!;
    const slope = (corrGuidePlane[i]! - I * p) / (Math.max(corrGuide[i]! - I * I, 0) + epsilon);
    a[i] = slope;
    b[i] = p - slope * I;
  }
  const meanA = mean(a);
  const meanB = mean(b);
  for (let i = 0; i < n; i++) plane[i] = meanA[i]! * guide[i]! + meanB[i]!;
}
