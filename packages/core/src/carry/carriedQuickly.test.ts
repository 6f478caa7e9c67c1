import { describe, expect, it } from 'vitest';
import { enlarged, shrunk } from '../scribble/resized.ts';
import { compareMasks } from '../testing/carried.ts';
import { frameOf, H, W, type Scene } from '../testing/texturedDisc.ts';
import { pyramidOf } from '../track/pyramid.ts';
import { carriedQuickly } from './carriedQuickly.ts';
import type { CarriedPicture } from './selectionCarrier.ts';

/** The same, so many times as large. */
function enlargedFrame(scene: Scene, t: number, times: number): CarriedPicture & { truth: Float32Array } {
  const { oklab, truth } = frameOf(scene, t);
  const to = (plane: Float32Array) => enlarged(plane, W, H, times * W, times * H);
  const planes = { L: to(oklab.L), a: to(oklab.a), b: to(oklab.b) };
  return { oklab: planes, luma: pyramidOf(planes.L, times * W, times * H), truth: to(truth) };
}
function quickly(scene: Scene, frames: number, times = 1) {
  const first = enlargedFrame(scene, 0, times);
  const following = Array.from({ length: frames }, (_, k) => enlargedFrame(scene, k + 1, times));
  const found = [...carriedQuickly(first, first.truth, following)];
  return found.map((each, k) => ({
    ...each,
    overlap: compareMasks(each.mask, shrunk(following[k]!.truth, times * W, times * H, each.width, each.height)),
  }));
}
const moving: Scene = { at: (t) => [80 + 5 * t, 90 + 2 * t] };

describe('a selection carried quickly', () => {
  it.each([
    ['wide', 'at half the size of the frames', 3, 1.5],
    ['narrow', 'at their own size', 1, 1],
  ])('is found near where it is: a %s piece %s', (_width, _size, times, k) => {
    const all = quickly(moving, 2, times);
    expect(all.length).toBe(2);
    for (const { width, height, mask, overlap, certainty } of all) {
      expect([width, height, mask.length]).toEqual([k * W, k * H, k * W * k * H]);
      expect(overlap).toBeGreaterThan(0.93);
      expect(certainty).toBeGreaterThan(0.7);
    }
  });
  it('says so where the piece is out of sight', () => {
    const all = quickly({ at: (t) => [70 + 20 * t, 100], post: [120, 300] }, 8);
    expect(all[6]!).toMatchObject({ isSeen: false, certainty: 0 });
  });
  it('takes for selected what is so by half and more', () => {
    const first = frameOf({ at: () => [100, 100] }, 0);
    const [low, high] = [0.4, 0.6].map((level) => first.truth.map((v) => v * level));
    expect([...carriedQuickly(first, low!, [first])][0]!.isSeen).toBe(false);
    expect([...carriedQuickly(first, high!, [first])][0]!.isSeen).toBe(true);
  });
  it('is found one after the other, as they are asked for', () => {
    const first = frameOf({ at: () => [100, 100] }, 0);
    let asked = 0;
    const following = function* () {
      for (;;) {
        asked++;
        yield first;
      }
    };
    const found = carriedQuickly(first, first.truth, following());
    found.next();
    found.next();
    expect(asked).toBe(2);
  });
});
