import { bilinear } from '../matte/bilinear.ts';
import { cornersIn } from './corners.ts';
import { flexAt, type Flex } from './flex.ts';
import { flexOfPoints } from './flexFit.ts';
import { followPoints } from './flow.ts';
import { project, type Homography, type Quad } from './homography.ts';
import { pyramidOf, type Pyramid } from './pyramid.ts';

const MOST_POINTS = 500;
/** Bending past this share of the region's size is not believed. */
const LARGEST_SHARE = 0.15;

/**
 * Finds the flex of a region, frame by frame: points of the reference frame are followed by Lucas–Kanade into each
 * frame carried back by its plane motion; a node takes the locally quadratic fit to the points around it.
 */
export class FlexFinder {
  readonly #reference: Pyramid;
  readonly #quad: Quad;
  readonly #box: { x0: number; y0: number; x1: number; y1: number };
  readonly #points: Float64Array;
  #last: Flex | undefined;

  /** `quad`: the region's bounding box; `allowed`: what of it may be looked at on the reference frame. */
  constructor(reference: Pyramid, quad: Quad, allowed: (x: number, y: number) => boolean) {
    this.#quad = quad;
    const { width, height } = reference[0]!;
    const margin = 0.12 * Math.max(quad[2][0] - quad[0][0], quad[2][1] - quad[0][1]) + 24;
    this.#box = {
      x0: Math.max(Math.floor(quad[0][0] - margin), 0),
      y0: Math.max(Math.floor(quad[0][1] - margin), 0),
      x1: Math.min(Math.ceil(quad[2][0] + margin), width),
      y1: Math.min(Math.ceil(quad[2][1] + margin), height),
    };
    this.#reference = pyramidOf(
      cropped(reference, this.#box),
      this.#box.x1 - this.#box.x0,
      this.#box.y1 - this.#box.y0,
      3,
    );
    const spacing = Math.max(Math.sqrt(((quad[2][0] - quad[0][0]) * (quad[2][1] - quad[0][1])) / MOST_POINTS) * 0.7, 5);
    const { x0, y0 } = this.#box;
    this.#points = cornersIn(
      this.#reference[0]!,
      { x0: quad[0][0] - x0, y0: quad[0][1] - y0, x1: quad[2][0] - x0, y1: quad[2][1] - y0 },
      (x, y) => allowed(x + x0, y + y0),
      MOST_POINTS,
      spacing,
    );
  }

  /** What was found last. */
  get last(): Flex | undefined {
    return this.#last;
  }
  forget(): void {
    this.#last = undefined;
  }

  /** The flex on a frame whose plane motion is known; `isSeen` tells where (on the frame) the region is not covered. */
  find(next: Pyramid, motion: Homography, gain: number, bias: number, isSeen: (x: number, y: number) => boolean): Flex {
    const { x0, y0, x1, y1 } = this.#box;
    const [w, h] = [x1 - x0, y1 - y0];
    const back = pyramidOf(carriedBack(next, motion, this.#box, gain, bias), w, h, 3);
    const guesses = this.#points.slice();
    if (this.#last)
      for (let i = 0; i < guesses.length; i += 2) {
        const [dx, dy] = flexAt(this.#last, this.#quad, guesses[i]! + x0, guesses[i + 1]! + y0);
        guesses[i] = guesses[i]! + dx;
        guesses[i + 1] = guesses[i + 1]! + dy;
      }
    const { places, kept } = followPoints(this.#reference, back, this.#points, guesses);
    const most = LARGEST_SHARE * Math.max(w, h);
    const found: { x: number; y: number; dx: number; dy: number }[] = [];
    for (let i = 0; i < kept.length; i++) {
      if (!kept[i]) continue;
      const [x, y] = [this.#points[2 * i]!, this.#points[2 * i + 1]!];
      const [dx, dy] = [places[2 * i]! - x, places[2 * i + 1]! - y];
      if (Math.hypot(dx, dy) <= most && isSeen(...project(motion, places[2 * i]! + x0, places[2 * i + 1]! + y0)))
        found.push({ x: x + x0, y: y + y0, dx, dy });
    }
    return (this.#last = flexOfPoints(found, this.#quad, this.#last));
  }
}

function cropped(
  pyramid: Pyramid,
  { x0, y0, x1, y1 }: { x0: number; y0: number; x1: number; y1: number },
): Float32Array {
  const { width, luma } = pyramid[0]!;
  const out = new Float32Array((x1 - x0) * (y1 - y0));
  for (let y = y0; y < y1; y++) out.set(luma.subarray(y * width + x0, y * width + x1), (y - y0) * (x1 - x0));
  return out;
}

/** A frame as it would lie on the reference frame, its light undone; what is off the picture repeats the rim. */
function carriedBack(
  next: Pyramid,
  h: Homography,
  { x0, y0, x1, y1 }: { x0: number; y0: number; x1: number; y1: number },
  gain: number,
  bias: number,
): Float32Array {
  const { width, height, luma } = next[0]!;
  const out = new Float32Array((x1 - x0) * (y1 - y0));
  let o = 0;
  for (let y = y0; y < y1; y++)
    for (let x = x0; x < x1; x++, o++) {
      const w = h[6] * (x + 0.5) + h[7] * (y + 0.5) + h[8];
      const u = Math.min(Math.max((h[0] * (x + 0.5) + h[1] * (y + 0.5) + h[2]) / w - 0.5, 0), width - 1.001);
      const v = Math.min(Math.max((h[3] * (x + 0.5) + h[4] * (y + 0.5) + h[5]) / w - 0.5, 0), height - 1.001);
      out[o] = (bilinear(luma, width, u, v) - bias) / gain;
    }
  return out;
}
