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

/** Over squares of so many pixels the grain of a render is averaged out; a bounce is far wider. */
const SQUARE = 8;

/**
 * Mean ΔE00 of the marked floor, where nothing of the piece is, with so much of a bounce (0..1): pixel by pixel, and of
 * the mean light of squares that are marked as a whole.
 */
export function floorError(of: Case, program: Program, amount: number): { pixels: number; squares: number } {
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
  const isMarked = (a: number) => a === 1;
  return { pixels: errorsOf(pairs, isMarked).mean, squares: errorsOf(pairs.map(inSquares), isMarked).mean };
}

type Pair = Parameters<typeof errorsOf>[0][number];
function inSquares({ result, truth, alpha }: Pair): Pair {
  const [across, down] = [Math.floor(width / SQUARE), Math.floor(height / SQUARE)];
  const means = (plane: Float32Array) =>
    Float32Array.from({ length: across * down }, (_, k) => {
      const at = SQUARE * (width * Math.floor(k / across) + (k % across));
      let sum = 0;
      for (let y = 0; y < SQUARE; y++) for (let x = 0; x < SQUARE; x++) sum += plane[at + y * width + x]!;
      return sum / SQUARE ** 2;
    });
  const light = ({ r, g, b }: LinearPlanes) => ({ r: means(r), g: means(g), b: means(b) });
  return { result: light(result), truth: light(truth), alpha: means(alpha) };
}
