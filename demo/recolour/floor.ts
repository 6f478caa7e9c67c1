// How much nearer a bounce brings the floor under a recoloured piece to the true one.
import { boundsOfMatte, recolourFrame, type LinearPlanes, type Program } from '../../packages/core/src/index.ts';
import { errorsOf } from './judge.ts';
import { STILL_SIZE, TABLES, type Case } from './stills.ts';

const { width, height } = STILL_SIZE;
/** The part of the floor that is marked, round where a piece stands: as wide again by three fifths, in its heights. */
const [WIDER, BELOW, TALL] = [1.6, 0.1, 0.3];

function floorOf(alpha: Float32Array) {
  const { x0, x1, y0, y1 } = boundsOfMatte(alpha, width, height)!;
  const [w, h] = [WIDER * (x1 - x0), TALL * (y1 - y0)];
  return { form: 'rectangle' as const, cx: (x0 + x1) / 2, cy: y1 + BELOW * (y1 - y0), width: w, height: h, turnDeg: 0 };
}

/** Mean ΔE00 of the marked floor, where nothing of the piece is, with so much of a bounce (0..1). */
export function floorError(of: Case, program: Program, amount: number): number {
  const pairs = of.frames.map(({ source, alpha, truth }) => {
    const geometry = floorOf(alpha);
    const within = { geometry, feather: { innerPx: 0, outerPx: 0, falloff: 'linear' as const } };
    const spill = { mode: 'bounce' as const, amount, within };
    const sighting = { layers: [], program, ...(amount > 0 && { spill: spill as never }) };
    const result: LinearPlanes = recolourFrame(source, [sighting], TABLES, () => alpha).linear;
    const isMarked = (i: number) =>
      alpha[i] === 0 &&
      Math.abs((i % width) - geometry.cx) < geometry.width / 2 &&
      Math.abs(Math.floor(i / width) - geometry.cy) < geometry.height / 2;
    return { result, truth, alpha: Float32Array.from(alpha, (_, i) => (isMarked(i) ? 1 : 0)) };
  });
  return errorsOf(pairs, (a) => a === 1).mean;
}
