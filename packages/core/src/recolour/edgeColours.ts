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
  /** How much of each one's luminance is sheen, where it was told apart. */
  sheen?: Float32Array;
}

/**
 * What the piece would show at the pixels of its edge if nothing else were mixed in: every pixel there is
 * I = α·F + (1 − α)·B, and F and B are found as smooth where α is (after A. Levin, D. Lischinski, Y. Weiss, "A
 * Closed-Form Solution to Natural Image Matting", PAMI 2008, section 6, in linear light): flooded from where they stand
 * alone, relaxed by Gauss and Seidel's sweeps, and held to what a pixel can be mixed of. A recolour of the whole mixed
 * pixel would recolour its surroundings too. `scale` is this size over the full resolution. `sheen`, of every pixel,
 * is carried on from where the piece stands alone: of a mixed pixel it cannot be read. Undefined without an edge, or
 * where the piece nowhere stands alone.
 */
export function edgeColoursOf(
  picture: LinearPlanes,
  alpha: Float32Array,
  width: number,
  height: number,
  scale: number,
  sheen?: Float32Array,
): EdgeColours | undefined {
  const band = bandOf(alpha, width, height);
  if (!band) return undefined;
  const piece = floodOf(band, alpha, true);
  const ground = floodOf(band, alpha, false);
  if (piece.order.length === 0) return undefined;
  const reach = Math.max(REACH_PX * scale, 1);
  const solved = (plane: Float32Array) => {
    const found = solve(plane, alpha, band, piece.order, ground.order);
    for (let k = 0; k < found.length; k++) {
      const trust = Math.min(Math.max(2 - Math.max(piece.steps[k]!, ground.steps[k]!) / reach, 0), 1);
      const own = plane[band.index[k]!]!;
      found[k] = own + trust * (found[k]! - own);
    }
    return found;
  };
  const own = { index: band.index, r: solved(picture.r), g: solved(picture.g), b: solved(picture.b) };
  return sheen ? { ...own, sheen: carriedOn(sheen, alpha, band, piece.order) } : own;
}

/** A plane of the piece over its edge, from where it stands alone; 0 where no flood comes. */
function carriedOn(plane: Float32Array, alpha: Float32Array, band: Band, order: Uint32Array): Float32Array {
  const part = new Part(plane, alpha, band, true);
  part.flood(order);
  return part.own.map((v) => (Number.isNaN(v) ? 0 : v));
}

/** The mixed pixels, and round each its eight neighbours. */
interface Band {
  index: Uint32Array;
  /** Eight a pixel, left, right, above and below first: pixel numbers, −1 beyond the picture. */
  next: Int32Array;
  /** The same as places in the band; −1 for what is not mixed. */
  within: Int32Array;
}
const AROUND = [
  [-1, 0],
  [1, 0],
  [0, -1],
  [0, 1],
  [-1, -1],
  [1, -1],
  [-1, 1],
  [1, 1],
] as const;

function bandOf(alpha: Float32Array, width: number, height: number): Band | undefined {
  const found: number[] = [];
  for (let i = 0; i < alpha.length; i++) if (alpha[i]! > LEAST_MIXED && alpha[i]! < 1 - LEAST_MIXED) found.push(i);
  if (found.length === 0) return undefined;
  const place = new Int32Array(alpha.length).fill(-1);
  found.forEach((i, k) => (place[i] = k));
  const next = new Int32Array(8 * found.length).fill(-1);
  const within = new Int32Array(8 * found.length).fill(-1);
  found.forEach((i, k) => {
    const x = i % width;
    const y = (i - x) / width;
    AROUND.forEach(([dx, dy], n) => {
      if (x + dx < 0 || x + dx >= width || y + dy < 0 || y + dy >= height) return;
      const j = i + dy * width + dx;
      next[8 * k + n] = j;
      within[8 * k + n] = place[j]!;
    });
  });
  return { index: Uint32Array.from(found), next, within };
}

const isSource = (a: number, ofPiece: boolean) => (ofPiece ? a >= SOLID : a <= 1 - SOLID);

/** The order in which a flood reaches places of the band, and in how many steps each (0 at its source). */
interface Flood {
  order: Uint32Array;
  steps: Uint16Array;
}
/**
 * A flood over the mixed pixels that do not show one part alone: by falling α for the piece, by rising α for its
 * ground, each after some neighbour of its own; those that it cannot reach are left out.
 */
function floodOf({ index, next, within }: Band, alpha: Float32Array, ofPiece: boolean): Flood {
  const waiting: number[] = [];
  for (let k = 0; k < index.length; k++) if (!isSource(alpha[index[k]!]!, ofPiece)) waiting.push(k);
  const at = (k: number) => alpha[index[k]!]!;
  waiting.sort((p, q) => (ofPiece ? at(q) - at(p) : at(p) - at(q)));
  const steps = new Uint16Array(index.length);
  const order = new Uint32Array(waiting.length);
  let n = 0;
  /** One more than the fewest steps of a neighbour; 0 where none is set. */
  const reached = (k: number): number => {
    let fewest = MOST_STEPS;
    for (let m = 8 * k; m < 8 * k + 8; m++) {
      if (next[m]! < 0) continue;
      if (isSource(alpha[next[m]!]!, ofPiece)) return 1;
      const own = within[m]! < 0 ? 0 : steps[within[m]!]!;
      if (own > 0 && own < fewest) fewest = own;
    }
    return fewest === MOST_STEPS ? 0 : fewest + 1;
  };
  let left = waiting;
  // a pixel less mixed than all its neighbours waits for the next round
  for (let before = -1; left.length > 0 && left.length !== before;) {
    before = left.length;
    left = left.filter((k) => {
      const found = reached(k);
      if (found === 0) return true;
      steps[k] = found;
      order[n++] = k;
      return false;
    });
  }
  return { order: order.subarray(0, n), steps };
}
const MOST_STEPS = 65_535;

/** One part (piece or ground) of one channel over the band; NaN where it is not known. */
class Part {
  readonly own: Float32Array;
  readonly #plane: Float32Array;
  readonly #alpha: Float32Array;
  readonly #band: Band;
  readonly #ofPiece: boolean;
  constructor(plane: Float32Array, alpha: Float32Array, band: Band, ofPiece: boolean) {
    [this.#plane, this.#alpha, this.#band, this.#ofPiece] = [plane, alpha, band, ofPiece];
    this.own = new Float32Array(band.index.length).fill(NaN);
    for (let k = 0; k < this.own.length; k++) {
      const i = band.index[k]!;
      // where a part stands alone it is the picture
      if (isSource(alpha[i]!, ofPiece)) this.own[k] = plane[i]!;
    }
  }
  /** The part at the m-th entry of the band's neighbours. */
  at(m: number): number {
    const { next, within } = this.#band;
    if (within[m]! >= 0) return this.own[within[m]!]!;
    const j = next[m]!;
    return j >= 0 && isSource(this.#alpha[j]!, this.#ofPiece) ? this.#plane[j]! : NaN;
  }
  /**
   * Sets places one after another to the mean of their neighbours that are set, weighed by the cube of what they show.
   */
  flood(order: Uint32Array): void {
    for (const k of order) {
      let [sum, weights] = [0, 0];
      for (let m = 8 * k; m < 8 * k + 8; m++) {
        const v = this.at(m);
        if (Number.isNaN(v)) continue;
        const a = this.#alpha[this.#band.next[m]!]!;
        const w = (this.#ofPiece ? a : 1 - a) ** 3;
        sum += w * v;
        weights += w;
      }
      this.own[k] = sum / weights;
    }
  }
}

/** One channel of F at the mixed pixels. */
function solve(
  plane: Float32Array,
  alpha: Float32Array,
  band: Band,
  piece: Uint32Array,
  ground: Uint32Array,
): Float32Array {
  const { index, next } = band;
  const [F, B] = [new Part(plane, alpha, band, true), new Part(plane, alpha, band, false)];
  F.flood(piece);
  B.flood(ground);
  let most = 1;
  for (const i of index) most = Math.max(most, plane[i]!);
  for (let sweep = 0; sweep < SWEEPS; sweep++)
    for (let n = 0; n < index.length; n++) {
      const k = sweep % 2 === 0 ? n : index.length - 1 - n;
      // a part that no flood reached has no say: the pixel is the other's alone
      if (Number.isNaN(F.own[k]!) || Number.isNaN(B.own[k]!)) continue;
      const i = index[k]!;
      const a = alpha[i]!;
      let [f, fSum, b, bSum] = [0, 0, 0, 0];
      for (let m = 8 * k; m < 8 * k + 4; m++) {
        if (next[m]! < 0) continue;
        const w = SMOOTHNESS + Math.abs(a - alpha[next[m]!]!);
        const [ofPiece, ofGround] = [F.at(m), B.at(m)];
        if (!Number.isNaN(ofPiece)) {
          f += w;
          fSum += w * ofPiece;
        }
        if (!Number.isNaN(ofGround)) {
          b += w;
          bSum += w * ofGround;
        }
      }
      const c = 1 - a;
      const [ff, fb, bb] = [FIT * a * a + f, FIT * a * c, FIT * c * c + b];
      const [rf, rb] = [FIT * a * plane[i]! + fSum, FIT * c * plane[i]! + bSum];
      const det = ff * bb - fb * fb;
      if (det < 1e-12) continue;
      F.own[k] = Math.min(Math.max((rf * bb - rb * fb) / det, 0), most);
      B.own[k] = Math.min(Math.max((rb * ff - rf * fb) / det, 0), most);
    }
  const out = new Float32Array(index.length);
  for (let k = 0; k < out.length; k++) {
    const [v, a] = [plane[index[k]!]!, alpha[index[k]!]!];
    const own = F.own[k]!;
    // what is mixed in is light too: no less than none, no more than the brightest
    const isKnown = !Number.isNaN(own) && !Number.isNaN(B.own[k]!);
    out[k] = isKnown ? Math.max(0, (v - (1 - a) * most) / a, Math.min(own, Math.max(v, 0) / a)) : v;
  }
  return out;
}
