// A textured disc that goes over a textured ground, behind a post that stands still.
import type { CarriedPicture } from '../carry/selectionCarrier.ts';
import { pyramidOf } from '../track/pyramid.ts';
import { seededRandom } from '../track/random.ts';

/** The picture's size. */
export const [W, H] = [320, 200];
const RADIUS = 42;
/** Smooth noise of three planes: a grid of random values, bilinear between. */
function texture(seed: number, cell: number): (x: number, y: number) => readonly [number, number, number] {
  const random = seededRandom(seed);
  const n = 96;
  const grid = Float32Array.from({ length: 3 * n * n }, () => random() - 0.5);
  return (x, y) => {
    const [u, v] = [x / cell + 1000 * n, y / cell + 1000 * n];
    const [i, j] = [Math.floor(u), Math.floor(v)];
    const [fx, fy] = [u - i, v - j];
    const at = (p: number, q: number, c: number) => grid[3 * ((q % n) * n + (p % n)) + c]!;
    return [0, 1, 2].map(
      (c) =>
        (1 - fy) * ((1 - fx) * at(i, j, c) + fx * at(i + 1, j, c)) +
        fy * ((1 - fx) * at(i, j + 1, c) + fx * at(i + 1, j + 1, c)),
    ) as unknown as readonly [number, number, number];
  };
}
const [surface, ground, post] = [texture(1, 6), texture(2, 7), texture(3, 5)];

export interface Scene {
  /** Where the disc's middle is on a frame. */
  at: (t: number) => readonly [number, number];
  post?: readonly [from: number, to: number];
}
/**
 * A frame of it, and where the disc is seen. All three are of one range of colours: only motion and texture tell them
 * apart.
 */
export function frameOf({ at, post: [p0, p1] = [0, 0] }: Scene, t: number): CarriedPicture & { truth: Float32Array } {
  const [cx, cy] = at(t);
  const n = W * H;
  const truth = new Float32Array(n);
  const oklab = { L: new Float32Array(n), a: new Float32Array(n), b: new Float32Array(n) };
  for (let i = 0; i < n; i++) {
    const [x, y] = [(i % W) + 0.5, Math.floor(i / W) + 0.5];
    const isPost = x >= p0 && x < p1;
    const isDisc = !isPost && Math.hypot(x - cx, y - cy) < RADIUS;
    truth[i] = isDisc ? 1 : 0;
    const behind = isDisc ? surface(x - cx, y - cy) : ground(x, y);
    const [L, a, b] = isPost ? post(x, y) : behind;
    oklab.L[i] = 0.5 + 0.5 * L;
    oklab.a[i] = 0.1 * a;
    oklab.b[i] = 0.1 * b;
  }
  return { oklab, luma: pyramidOf(oklab.L, W, H), truth };
}
