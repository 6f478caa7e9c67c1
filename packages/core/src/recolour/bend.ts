import { BEND_HANDLES, type PlaneBend } from '../document/finer.ts';
import { solveInPlace } from '../track/linear.ts';

/** Handles nearer than this are one: both could not be had. */
const APART = 1e-4;

/**
 * The displacement of OKLab's a, b plane by its handles: a sum of Gaussians of the handles' reach round each of them,
 * weighed so that every handle arrives where it was pulled to and neutral grey stays (Broomhead & Lowe 1988, radial
 * basis functions). Undefined where nothing is pulled.
 */
export function bendOf(bend: PlaneBend): ((lab: Float64Array) => void) | undefined {
  const pins = [{ a: 0, b: 0, da: 0, db: 0 }];
  for (const name of BEND_HANDLES) {
    const handle = bend[name];
    if (handle.on && pins.every((p) => Math.hypot(p.a - handle.a, p.b - handle.b) > APART)) pins.push(handle);
  }
  if (pins.every(({ da, db }) => da === 0 && db === 0)) return undefined;
  const n = pins.length;
  const k = 1 / (2 * bend.reach ** 2);
  const round = (a: number, b: number, at: { a: number; b: number }) =>
    Math.exp(-k * ((a - at.a) ** 2 + (b - at.b) ** 2));
  const weighed = (wanted: (pin: (typeof pins)[number]) => number) => {
    // a little on the diagonal keeps handles close together from pulling against each other without bounds
    const matrix = Float64Array.from(
      pins.flatMap((p, i) => pins.map((q, j) => round(p.a, p.b, q) + (i === j ? 1e-9 : 0))),
    );
    const w = Float64Array.from(pins, wanted);
    return solveInPlace(matrix, w, n) ? w : new Float64Array(n);
  };
  const wa = weighed((p) => p.da);
  const wb = weighed((p) => p.db);
  return (lab) => {
    const a = lab[1]!;
    const b = lab[2]!;
    for (let i = 0; i < n; i++) {
      const w = round(a, b, pins[i]!);
      lab[1] = lab[1]! + w * wa[i]!;
      lab[2] = lab[2]! + w * wb[i]!;
    }
  };
}
