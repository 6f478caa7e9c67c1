import { expect, it } from 'vitest';
import { project } from '@mellow/core';
import { fittedMotion } from './fittedMotion.ts';

const all = { move: true, turn: true, scale: true, shear: true, perspective: true };
const at = (...places: [number, number][]) => places.map(([x, y]) => ({ x, y, inX: 0, inY: 0, outX: 0, outY: 0 }));
const from = at([100, 100], [300, 100], [300, 220], [100, 220]);

it('takes one dragged corner of a region as perspective, and meets all four corners', () => {
  const to = at([100, 100], [330, 90], [300, 220], [100, 220]);
  const h = fittedMotion(from, to, all)!;
  from.forEach((p, i) => {
    const [x, y] = project(h, p.x, p.y);
    expect(Math.hypot(x - to[i]!.x, y - to[i]!.y)).toBeLessThan(0.01);
  });
});
it('takes the same drag as a mere move when only that is allowed', () => {
  const h = fittedMotion(from, at([108, 104], [308, 104], [308, 224], [108, 224]), {
    ...all,
    turn: false,
    scale: false,
    shear: false,
    perspective: false,
  })!;
  expect(h.map((v) => Math.round(v * 1e6) / 1e6)).toEqual([1, 0, 8, 0, 1, 4, 0, 0, 1]);
});
it('follows a far drag too, and says nothing when nothing moved', () => {
  const h = fittedMotion(
    from,
    from.map((p) => ({ ...p, x: p.x + 900, y: p.y - 300 })),
    all,
  )!;
  expect(Math.hypot(project(h, 200, 160)[0] - 1100, project(h, 200, 160)[1] + 140)).toBeLessThan(0.5);
  expect(fittedMotion(from, from, all)).toBeUndefined();
});
it('takes a drag along one axis as one', () => {
  const moved = (dx: number, dy: number) =>
    fittedMotion(
      from,
      from.map((p) => ({ ...p, x: p.x + dx, y: p.y + dy })),
      all,
    )!.map((v) => Math.round(v * 1e6) / 1e6);
  expect(moved(7, 0)).toEqual([1, 0, 7, 0, 1, 0, 0, 0, 1]);
  expect(moved(0, -3)).toEqual([1, 0, 0, 0, 1, -3, 0, 0, 1]);
});
it('meets three dragged points without perspective, which they cannot tell', () => {
  const three = from.slice(0, 3);
  const to = at([100, 100], [340, 120], [300, 260]);
  const h = fittedMotion(three, to, all)!;
  expect([Math.abs(h[6]), Math.abs(h[7])]).toEqual([0, 0]);
  three.forEach((p, i) => {
    const [x, y] = project(h, p.x, p.y);
    expect(Math.hypot(x - to[i]!.x, y - to[i]!.y)).toBeLessThan(0.01);
  });
});
