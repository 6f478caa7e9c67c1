import { MotionModel, type Freedom, type Homography, type PathPoint } from '@mellow/core';

/**
 * The motion of the allowed kinds that carries points nearest to where a hand has put them; undefined when it stayed.
 */
export function fittedMotion(
  from: readonly PathPoint[],
  to: readonly PathPoint[],
  freedom: Freedom,
): Homography | undefined {
  if (from.every((p, i) => p.x === to[i]!.x && p.y === to[i]!.y)) return undefined;
  const [xs, ys] = [from.map((p) => p.x), from.map((p) => p.y)];
  const [x0, x1, y0, y1] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  // three points fix an affine motion, no more
  const model = new MotionModel(
    { ...freedom, perspective: freedom.perspective && from.length >= 4 },
    (x0 + x1) / 2,
    (y0 + y1) / 2,
    Math.max(x1 - x0, y1 - y0, 1) / 2,
  );
  const flat = (points: readonly PathPoint[]) => Float64Array.from(points.flatMap((p) => [p.x, p.y]));
  // a fit finds what is near: the move of the middle is taken first, the rest in steps
  const mean = (of: (p: PathPoint) => number, points: readonly PathPoint[]) =>
    points.reduce((sum, p) => sum + of(p), 0) / points.length;
  const [dx, dy] = freedom.move
    ? [mean((p) => p.x, to) - mean((p) => p.x, from), mean((p) => p.y, to) - mean((p) => p.y, from)]
    : [0, 0];
  let h: Homography = [1, 0, dx, 0, 1, dy, 0, 0, 1];
  const a = flat(from.map((p) => ({ ...p, x: p.x + dx, y: p.y + dy })));
  const [b, places] = [flat(to), flat(from)];
  for (let k = 1; k <= 8; k++) {
    const part = b.map((v, i) => a[i]! + ((v - a[i]!) * k) / 8);
    h =
      model.fit(
        h,
        places,
        part,
        undefined,
        from.map((_, i) => i),
        12,
      ) ?? h;
  }
  return h;
}
