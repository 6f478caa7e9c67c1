// A textured disc that goes over a textured ground, behind a post that stands still, out of sight and back.
import { describe, expect, it } from 'vitest';
import { compareMasks } from '../testing/carried.ts';
import { frameOf, H, W, type Scene } from '../testing/texturedDisc.ts';
import { SelectionCarrier } from './selectionCarrier.ts';

/** Overlap with the truth on each frame after the first, and what was said of it. */
function carried(scene: Scene, frames: number) {
  const first = frameOf(scene, 0);
  const carrier = SelectionCarrier.from(first, first.truth);
  return Array.from({ length: frames }, (_, k) => {
    const now = frameOf(scene, k + 1);
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
  it('leaves out a line that goes along with it, narrower than a patch, as it did where it set out', () => {
    const at = (t: number): [number, number] => [80 + 5 * t, 90 + 2 * t];
    const lined = (t: number) => {
      const now = frameOf({ at }, t);
      const isLine = (i: number) => Math.abs((i % W) - at(t)[0]) < 2;
      const inDisc = now.truth.map((v, i) => (isLine(i) ? v : 0));
      return {
        ...now,
        oklab: { ...now.oklab, L: now.oklab.L.map((l, i) => (inDisc[i]! > 0 ? 0.05 : l)) },
        inDisc,
        truth: now.truth.map((v, i) => (isLine(i) ? 0 : v)),
      };
    };
    const first = lined(0);
    const carrier = SelectionCarrier.from(first, first.truth);
    for (let t = 1; t <= 10; t++) {
      const now = lined(t);
      const { mask } = carrier.step(now);
      const [line, taken] = [0, 1].map((only) =>
        now.inDisc.reduce((sum, v, i) => sum + (only ? v * mask[i]! : v), 0),
      ) as [number, number];
      expect(taken / line, `frame ${t}`).toBeLessThan(0.2);
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
    const first = frameOf(scene, 0);
    const through = SelectionCarrier.from(first, first.truth);
    for (let t = 1; t <= 14; t++) {
      // as it is kept in a file
      const kept = [5, 13].includes(t) ? structuredClone(through.state()) : undefined;
      const now = frameOf(scene, t);
      const found = through.step(now);
      if (kept) expect(new SelectionCarrier(kept).step(now), `frame ${t}`).toEqual(found);
    }
  });
  it('that is nothing stays nothing', () => {
    const first = frameOf({ at: () => [100, 100] }, 0);
    const carrier = SelectionCarrier.from(first, new Float32Array(W * H));
    expect(carrier.step(first)).toMatchObject({ isSeen: false, certainty: 0 });
  });
});
