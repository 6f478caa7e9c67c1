// A textured disc that goes over a textured ground, behind a post that stands still, out of sight and back.
import { describe, expect, it } from 'vitest';
import { compareMasks } from '../testing/carried.ts';
import { seededRandom } from '../track/random.ts';
import { pyramidOf } from '../track/pyramid.ts';
import { SelectionCarrier, type CarriedPicture } from './selectionCarrier.ts';

const [W, H, R] = [320, 200, 42];
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

interface Scene {
  /** Where the disc's middle is on a frame. */
  at: (t: number) => readonly [number, number];
  post?: readonly [from: number, to: number];
}
/** All three are of one range of colours: only motion and texture tell them apart. */
function frame({ at, post: [p0, p1] = [0, 0] }: Scene, t: number): CarriedPicture & { truth: Float32Array } {
  const [cx, cy] = at(t);
  const n = W * H;
  const truth = new Float32Array(n);
  const oklab = { L: new Float32Array(n), a: new Float32Array(n), b: new Float32Array(n) };
  for (let i = 0; i < n; i++) {
    const [x, y] = [(i % W) + 0.5, Math.floor(i / W) + 0.5];
    const isPost = x >= p0 && x < p1;
    const isDisc = !isPost && Math.hypot(x - cx, y - cy) < R;
    truth[i] = isDisc ? 1 : 0;
    const behind = isDisc ? surface(x - cx, y - cy) : ground(x, y);
    const [L, a, b] = isPost ? post(x, y) : behind;
    oklab.L[i] = 0.5 + 0.5 * L;
    oklab.a[i] = 0.1 * a;
    oklab.b[i] = 0.1 * b;
  }
  return { oklab, luma: pyramidOf(oklab.L, W, H), truth };
}
/** Overlap with the truth on each frame after the first, and what was said of it. */
function carried(scene: Scene, frames: number) {
  const first = frame(scene, 0);
  const carrier = SelectionCarrier.from(first, first.truth);
  return Array.from({ length: frames }, (_, k) => {
    const now = frame(scene, k + 1);
    const found = carrier.step(now);
    return { ...found, overlap: compareMasks(found.mask, now.truth) };
  });
}

describe('a selection', () => {
  it('goes along with what it holds over a ground of the same colours, and is sure of it', () => {
    for (const { overlap, isSeen, certainty } of carried({ at: (t) => [80 + 5 * t, 90 + 2 * t] }, 12)) {
      expect(overlap).toBeGreaterThan(0.94);
      expect(isSeen).toBe(true);
      expect(certainty).toBeGreaterThan(0.75);
    }
  });
  it('stays behind a post, which it does not take along, and is whole again beyond it', () => {
    const all = carried({ at: (t) => [70 + 8 * t, 100], post: [140, 165] }, 20);
    // while it is cut in two by something of its own colours, slivers of it may be lost
    for (const { overlap } of all) expect(overlap).toBeGreaterThan(0.65);
    for (const { overlap } of [...all.slice(0, 7), ...all.slice(-6)]) expect(overlap).toBeGreaterThan(0.95);
  });
  it('is nothing while all of it is covered, said so, and is found again', () => {
    const all = carried({ at: (t) => [70 + 10 * t, 100], post: [130, 240] }, 22);
    // its right edge reaches the post at 2, its left edge is behind it at 11
    expect(all[12]!).toMatchObject({ isSeen: false, certainty: 0 });
    expect(all[12]!.mask.some((v) => v !== 0)).toBe(false);
    expect(all.at(-1)!.isSeen).toBe(true);
    expect(all.at(-1)!.overlap).toBeGreaterThan(0.8);
  });
  it('leaves the picture, and nothing is left of it', () => {
    const all = carried({ at: (t) => [240 + 12 * t, 100] }, 14);
    expect(all[5]!.overlap).toBeGreaterThan(0.9);
    expect(all.at(-1)!.mask.some((v) => v !== 0)).toBe(false);
  });
  it('goes on from where another was to the very same masks, behind a post and out of sight too', () => {
    const scene: Scene = { at: (t) => [70 + 10 * t, 100], post: [130, 240] };
    const first = frame(scene, 0);
    const through = SelectionCarrier.from(first, first.truth);
    for (let t = 1; t <= 14; t++) {
      // as it is kept in a file
      const kept = [5, 13].includes(t) ? structuredClone(through.state()) : undefined;
      const now = frame(scene, t);
      const found = through.step(now);
      if (kept) expect(new SelectionCarrier(kept).step(now), `frame ${t}`).toEqual(found);
    }
  });
  it('that is nothing stays nothing', () => {
    const first = frame({ at: () => [100, 100] }, 0);
    const carrier = SelectionCarrier.from(first, new Float32Array(W * H));
    expect(carrier.step(first)).toMatchObject({ isSeen: false, certainty: 0 });
  });
});
