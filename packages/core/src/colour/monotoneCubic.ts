/**
 * Slopes at the points of a cubic that never overshoots: three-point differences, limited after Fritsch & Carlson,
 * "Monotone Piecewise Cubic Interpolation" (SIAM J. Numer. Anal. 17, 1980). `xs` rise.
 */
export function monotoneSlopes(xs: readonly number[], ys: readonly number[]): number[] {
  const n = xs.length;
  const chord = Array.from({ length: n - 1 }, (_, i) => (ys[i + 1]! - ys[i]!) / (xs[i + 1]! - xs[i]!));
  const slopes = Array.from({ length: n }, (_, i) => {
    const [left, right] = [chord[i - 1], chord[i]];
    if (left === undefined || right === undefined) return left ?? right ?? 0;
    return left * right <= 0 ? 0 : (left + right) / 2;
  });
  for (let i = 0; i < n - 1; i++) {
    const d = chord[i]!;
    if (d === 0) {
      slopes[i] = slopes[i + 1] = 0;
      continue;
    }
    // their circle of radius 3 about chord-relative slopes, without dividing by a chord that may be next to nothing
    const length = Math.hypot(slopes[i]!, slopes[i + 1]!);
    const most = 3 * Math.abs(d);
    if (length > most) [slopes[i], slopes[i + 1]] = [slopes[i]! * (most / length), slopes[i + 1]! * (most / length)];
  }
  return slopes;
}

/** The cubic between two points, `t` 0..1 of the `span` between them, with the slopes at both (Hermite's basis). */
export function hermite(t: number, span: number, from: number, to: number, slopeFrom: number, slopeTo: number): number {
  const [h00, h10, h01, h11] = [(1 + 2 * t) * (1 - t) ** 2, t * (1 - t) ** 2, t * t * (3 - 2 * t), t * t * (t - 1)];
  return h00 * from + h10 * span * slopeFrom + h01 * to + h11 * span * slopeTo;
}

/**
 * The monotone cubic through points whose x rise; outside them it goes on straight with the slope it has there.
 * Throws RangeError with fewer than two points, or where an x does not rise.
 */
export function monotoneCubic(xs: readonly number[], ys: readonly number[]): (x: number) => number {
  if (xs.length < 2) throw new RangeError(`a curve needs two points, not ${xs.length}`);
  xs.forEach((x, i) => {
    if (i > 0 && !(x > xs[i - 1]!)) throw new RangeError(`point ${i + 1} of a curve does not lie past the one before`);
  });
  const slopes = monotoneSlopes(xs, ys);
  const last = xs.length - 1;
  return (x) => {
    if (x <= xs[0]!) return ys[0]! + (x - xs[0]!) * slopes[0]!;
    if (x >= xs[last]!) return ys[last]! + (x - xs[last]!) * slopes[last]!;
    let i = 0;
    while (x > xs[i + 1]!) i++;
    const span = xs[i + 1]! - xs[i]!;
    return hermite((x - xs[i]!) / span, span, ys[i]!, ys[i + 1]!, slopes[i]!, slopes[i + 1]!);
  };
}
