/** A 3×3 matrix, row by row. */
export type Matrix3 = readonly [number, number, number, number, number, number, number, number, number];
export type Triple = readonly [number, number, number];

export const IDENTITY: Matrix3 = [1, 0, 0, 0, 1, 0, 0, 0, 1];

/** `m · v` with `v` a column. */
export function transform(m: Matrix3, [x, y, z]: Triple): [number, number, number] {
  return [m[0] * x + m[1] * y + m[2] * z, m[3] * x + m[4] * y + m[5] * z, m[6] * x + m[7] * y + m[8] * z];
}

/** `a · b`. */
export function multiply(a: Matrix3, b: Matrix3): Matrix3 {
  const column = (i: 0 | 1 | 2): Triple => transform(a, [b[i], b[i + 3]!, b[i + 6]!]);
  const [p, q, r] = [column(0), column(1), column(2)];
  return [p[0], q[0], r[0], p[1], q[1], r[1], p[2], q[2], r[2]];
}

/** `k · m`. */
export const scaled = (m: Matrix3, k: number): Matrix3 => m.map((v) => v * k) as unknown as Matrix3;

/** Inverse by cofactors. Throws RangeError for a singular matrix. */
export function inverse(m: Matrix3): Matrix3 {
  const [a, b, c, d, e, f, g, h, i] = m;
  const det = a * (e * i - f * h) - b * (d * i - f * g) + c * (d * h - e * g);
  if (Math.abs(det) < 1e-12) throw new RangeError(`matrix is singular: determinant ${det}`);
  const cof = [
    e * i - f * h,
    c * h - b * i,
    b * f - c * e,
    f * g - d * i,
    a * i - c * g,
    c * d - a * f,
    d * h - e * g,
    b * g - a * h,
    a * e - b * d,
  ];
  return cof.map((x) => x / det) as unknown as Matrix3;
}
