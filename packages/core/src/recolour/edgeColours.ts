import type { LinearPlanes } from '../colour/planes.ts';

/** Above this a pixel shows the piece alone, below its complement none of it. */
const SOLID = 0.98;
/** Between these a pixel is mixed enough to be unmixed. */
const LEAST_MIXED = 0.004;
/** How much a pixel's own colour counts against the smoothness of what it is mixed from. */
const FIT = 30;
/** How smooth both parts are taken to be where α does not change. */
const SMOOTHNESS = 0.001;
const SWEEPS = 4;
/**
 * Where the piece or its ground stands alone only this many full-resolution pixels away, a half-selected area is no
 * edge any more: from here to twice as far what was found gives way to the pixel's own colour.
 */
const REACH_PX = 24;

/** The piece's own colour at the pixels of its soft edge, linear light. */
export interface EdgeColours {
  /** The pixels, ascending. */
  index: Uint32Array;
  r: Float32Array;
  g: Float32Array;
  b: Float32Array;
}

/**
 * What the piece would show at the pixels of its edge if nothing else were mixed in: every pixel there is
 * I = α·F + (1 − α)·B, and F and B are found as smooth where α is (after A. Levin, D. Lischinski, Y. Weiss, "A
 * Closed-Form Solution to Natural Image Matting", PAMI 2008, section 6, in linear light): flooded from where they stand
 * alone, relaxed by Gauss and Seidel's sweeps, and held to what a pixel can be mixed of. A recolour of the whole mixed
 * pixel would recolour its surroundings too. `scale` is this size over the full resolution. Undefined without an edge,
 * or where the piece nowhere stands alone.
 */
export function edgeColoursOf(
  picture: LinearPlanes,
  alpha: Float32Array,
  width: number,
  height: number,
  scale: number,
): EdgeColours | undefined {
  const mixed = mixedPixels(alpha);
  if (mixed.length === 0) return undefined;
  const piece = floodedOrder(mixed, alpha, width, height, true);
  const ground = floodedOrder(mixed, alpha, width, height, false);
  if (piece.order.length === 0) return undefined;
  const grid = neighboursOf(mixed, alpha, width, height);
  const reach = Math.max(REACH_PX * scale, 1);
  const trust = Float32Array.from(mixed, (i) =>
    Math.min(Math.max(2 - Math.max(piece.steps[i]!, ground.steps[i]!) / reach, 0), 1),
  );
  const solved = (plane: Float32Array) => {
    const found = solve(plane, alpha, width, height, mixed, piece.order, ground.order, grid);
    mixed.forEach((i, k) => (found[k] = plane[i]! + trust[k]! * (found[k]! - plane[i]!)));
    return found;
  };
  return { index: mixed, r: solved(picture.r), g: solved(picture.g), b: solved(picture.b) };
}

function mixedPixels(alpha: Float32Array): Uint32Array {
  let n = 0;
  const isMixed = (a: number) => a > LEAST_MIXED && a < 1 - LEAST_MIXED;
  for (let i = 0; i < alpha.length; i++) if (isMixed(alpha[i]!)) n++;
  const out = new Uint32Array(n);
  n = 0;
  for (let i = 0; i < alpha.length; i++) if (isMixed(alpha[i]!)) out[n++] = i;
  return out;
}

const isSource = (a: number, ofPiece: boolean) => (ofPiece ? a >= SOLID : a <= 1 - SOLID);

/** The order in which a flood reaches pixels, and in how many steps (0 at its source). */
interface Flood {
  order: Uint32Array;
  steps: Uint16Array;
}
/**
 * A flood over the mixed pixels that do not show one part alone: by falling α for the piece, by rising α for its
 * ground, each after some neighbour of its own; those that it cannot reach are left out.
 */
function floodedOrder(mixed: Uint32Array, alpha: Float32Array, width: number, height: number, ofPiece: boolean): Flood {
  const waiting = mixed.filter((i) => !isSource(alpha[i]!, ofPiece));
  waiting.sort((i, j) => (ofPiece ? alpha[j]! - alpha[i]! : alpha[i]! - alpha[j]!));
  const steps = new Uint16Array(alpha.length);
  const order = new Uint32Array(waiting.length);
  let n = 0;
  /** One more than the fewest of a neighbour; 0 where none is set. */
  const reached = (i: number) => {
    let fewest = MOST_STEPS;
    eachNeighbour(i, width, height, (j) => {
      if (isSource(alpha[j]!, ofPiece)) fewest = 0;
      else if (steps[j]! > 0) fewest = Math.min(fewest, steps[j]!);
    });
    return fewest === MOST_STEPS ? 0 : fewest + 1;
  };
  let left = waiting;
  // a pixel less mixed than all its neighbours waits for the next round
  for (let before = -1; left.length > 0 && left.length !== before;) {
    before = left.length;
    left = left.filter((i) => {
      const found = reached(i);
      if (found === 0) return true;
      steps[i] = found;
      order[n++] = i;
      return false;
    });
  }
  return { order: order.subarray(0, n), steps };
}
const MOST_STEPS = 65_535;

function eachNeighbour(i: number, width: number, height: number, go: (j: number) => void): void {
  const x = i % width;
  const y = (i - x) / width;
  for (let v = Math.max(y - 1, 0); v <= Math.min(y + 1, height - 1); v++)
    for (let u = Math.max(x - 1, 0); u <= Math.min(x + 1, width - 1); u++) if (v !== y || u !== x) go(v * width + u);
}

/** Per mixed pixel its four neighbours (−1 beyond the picture) and how much each pulls. */
interface Grid {
  next: Int32Array;
  pull: Float32Array;
}
function neighboursOf(mixed: Uint32Array, alpha: Float32Array, width: number, height: number): Grid {
  const next = new Int32Array(4 * mixed.length).fill(-1);
  const pull = new Float32Array(4 * mixed.length);
  mixed.forEach((i, k) => {
    const x = i % width;
    const y = (i - x) / width;
    const beside = [
      x > 0 ? i - 1 : -1,
      x + 1 < width ? i + 1 : -1,
      y > 0 ? i - width : -1,
      y + 1 < height ? i + width : -1,
    ];
    beside.forEach((j, n) => {
      if (j < 0) return;
      next[4 * k + n] = j;
      pull[4 * k + n] = SMOOTHNESS + Math.abs(alpha[i]! - alpha[j]!);
    });
  });
  return { next, pull };
}

/** One channel of F at the mixed pixels. */
function solve(
  plane: Float32Array,
  alpha: Float32Array,
  width: number,
  height: number,
  mixed: Uint32Array,
  piece: Uint32Array,
  ground: Uint32Array,
  { next, pull }: Grid,
): Float32Array {
  // where a part stands alone it is the picture; NaN: not known
  const F = Float32Array.from(plane, (v, i) => (isSource(alpha[i]!, true) ? v : NaN));
  const B = Float32Array.from(plane, (v, i) => (isSource(alpha[i]!, false) ? v : NaN));
  flood(F, piece, width, height, (i) => alpha[i]! ** 3);
  flood(B, ground, width, height, (i) => (1 - alpha[i]!) ** 3);
  let most = 1;
  for (const i of mixed) most = Math.max(most, plane[i]!);
  for (let sweep = 0; sweep < SWEEPS; sweep++)
    for (let n = 0; n < mixed.length; n++) {
      const k = sweep % 2 === 0 ? n : mixed.length - 1 - n;
      const i = mixed[k]!;
      // a part that no flood reached has no say: the pixel is the other's alone
      if (Number.isNaN(F[i]!) || Number.isNaN(B[i]!)) continue;
      const a = alpha[i]!;
      let [f, fSum, b, bSum] = [0, 0, 0, 0];
      for (let m = 4 * k; m < 4 * k + 4; m++) {
        const j = next[m]!;
        if (j < 0) continue;
        const w = pull[m]!;
        if (!Number.isNaN(F[j]!)) {
          f += w;
          fSum += w * F[j]!;
        }
        if (!Number.isNaN(B[j]!)) {
          b += w;
          bSum += w * B[j]!;
        }
      }
      const c = 1 - a;
      const [ff, fb, bb] = [FIT * a * a + f, FIT * a * c, FIT * c * c + b];
      const [rf, rb] = [FIT * a * plane[i]! + fSum, FIT * c * plane[i]! + bSum];
      const det = ff * bb - fb * fb;
      if (det < 1e-12) continue;
      F[i] = Math.min(Math.max((rf * bb - rb * fb) / det, 0), most);
      B[i] = Math.min(Math.max((rb * ff - rf * fb) / det, 0), most);
    }
  return Float32Array.from(mixed, (i) => {
    const [v, a] = [plane[i]!, alpha[i]!];
    if (Number.isNaN(F[i]!) || Number.isNaN(B[i]!)) return v;
    // what is mixed in is light too: no less than none, no more than the brightest
    return Math.max(0, (v - (1 - a) * most) / a, Math.min(F[i]!, Math.max(v, 0) / a));
  });
}

/** Sets the pixels of an order one after another to the weighted mean of their neighbours that are set. */
function flood(
  plane: Float32Array,
  order: Uint32Array,
  width: number,
  height: number,
  weightOf: (i: number) => number,
): void {
  for (const i of order) {
    let [sum, weights] = [0, 0];
    eachNeighbour(i, width, height, (j) => {
      if (Number.isNaN(plane[j]!)) return;
      const w = weightOf(j);
      sum += w * plane[j]!;
      weights += w;
    });
    plane[i] = sum / weights;
  }
}
