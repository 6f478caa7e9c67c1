import { expect, it } from 'vitest';
import type { Geometry } from '@mellow/contract';
import { handlesOf } from './shapeHandles.ts';

const feather = { innerPx: 0, outerPx: 0, falloff: 'smooth' as const };
const box = (size: number): Geometry => ({
  form: 'rectangle',
  cx: 100,
  cy: 100,
  width: size,
  height: size,
  turnDeg: 0,
});
const kinds = (geometry: Geometry, px: number) =>
  handlesOf({ geometry, feather }, new Set(), px).map(({ grip }) => (grip.kind === 'size' ? sizes(grip) : grip.kind));
const sizes = ({ sx, sy }: { sx: number; sy: number }) => (sx !== 0 && sy !== 0 ? 'corner' : 'side');
const count = (of: readonly string[], kind: string) => of.filter((k) => k === kind).length;

it('a large shape has all its handles', () => {
  const all = kinds(box(200), 1);
  expect(['corner', 'side', 'turn', 'feather'].map((kind) => count(all, kind))).toEqual([4, 4, 1, 5]);
});
it('of a small one those that stand in each other’s way are left out, corners last', () => {
  const small = kinds(box(20), 1);
  expect([count(small, 'corner'), count(small, 'side')]).toEqual([4, 0]);
  // what is small on the screen counts, not in the picture
  expect(kinds(box(200), 10)).toEqual(small);
});
it('no two are nearer than they can be told apart, whatever the size', () => {
  for (const size of [4, 9, 15, 30, 60]) {
    const handles = handlesOf({ geometry: box(size), feather }, new Set(), 1);
    for (const [i, a] of handles.entries())
      for (const b of handles.slice(i + 1)) expect(Math.hypot(a.x - b.x, a.y - b.y)).toBeGreaterThanOrEqual(11);
    expect(handles.length).toBeGreaterThan(0);
  }
});
it('points of a path stay, however near they lie', () => {
  const points = [0, 3, 6].map((x) => ({ x, y: x % 2, inX: 0, inY: 0, outX: 0, outY: 0 }));
  expect(count(kinds({ form: 'spline', points }, 1), 'point')).toBe(3);
});
