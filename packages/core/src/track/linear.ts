/**
 * Solves the n × n system A·x = b by Gaussian elimination with partial pivoting, in place: `a` (row by row) and `b` are
 * used up, `b` holds x afterwards. False when A is singular to working precision.
 */
export function solveInPlace(a: Float64Array, b: Float64Array, n: number): boolean {
  for (let k = 0; k < n; k++) {
    let pivot = k;
    for (let i = k + 1; i < n; i++) if (Math.abs(a[i * n + k]!) > Math.abs(a[pivot * n + k]!)) pivot = i;
    const top = a[pivot * n + k]!;
    if (Math.abs(top) < 1e-14) return false;
    if (pivot !== k) {
      for (let j = k; j < n; j++) [a[k * n + j], a[pivot * n + j]] = [a[pivot * n + j]!, a[k * n + j]!];
      [b[k], b[pivot]] = [b[pivot]!, b[k]!];
    }
    for (let i = k + 1; i < n; i++) {
      const f = a[i * n + k]! / top;
      if (f === 0) continue;
      for (let j = k; j < n; j++) a[i * n + j] = a[i * n + j]! - f * a[k * n + j]!;
      b[i] = b[i]! - f * b[k]!;
    }
  }
  for (let i = n - 1; i >= 0; i--) {
    let sum = b[i]!;
    for (let j = i + 1; j < n; j++) sum -= a[i * n + j]! * b[j]!;
    b[i] = sum / a[i * n + i]!;
  }
  return true;
}
