import { expect, it } from 'vitest';
import { Pinch } from './pinch.ts';

function two(): Pinch {
  const pinch = new Pinch();
  pinch.down(1, [100, 100]);
  pinch.down(2, [200, 100]);
  return pinch;
}
it('zooms by how much farther apart the fingers are, about what lay between them', () =>
  expect(two().move(2, [300, 100])).toEqual({ factor: 2, about: [150, 100], by: [50, 0] }));
it('moves the picture with fingers that go side by side', () => {
  const pinch = two();
  const steps = [pinch.move(1, [100, 140])!, pinch.move(2, [200, 140])!];
  expect(steps[0]!.by[1] + steps[1]!.by[1]).toBe(40);
  expect(steps[0]!.factor * steps[1]!.factor).toBeCloseTo(1, 9);
});
it('is none with one finger, and counts no third', () => {
  const pinch = new Pinch();
  pinch.down(1, [0, 0]);
  expect(pinch.move(1, [9, 9])).toBeUndefined();
  pinch.down(2, [50, 0]);
  pinch.down(3, [90, 90]);
  expect(pinch.move(3, [0, 0])).toBeUndefined();
  pinch.up(1);
  expect([pinch.isTwo, pinch.move(2, [60, 0])]).toEqual([false, undefined]);
});
it('does not leap when the fingers meet', () => expect(two().move(2, [101, 100])!.factor).toBeCloseTo(0.08, 9));
