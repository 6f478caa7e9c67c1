import fc from 'fast-check';
import { expect, it } from 'vitest';
import { project, type Homography } from '../track/homography.ts';
import { projectedEllipse, type Ellipse } from './projectedEllipse.ts';

const ellipse: Ellipse = { form: 'ellipse', cx: 60, cy: 50, width: 40, height: 24, turnDeg: 10 };
const RAD = Math.PI / 180;
/** A point of an ellipse, `t` round it. */
function at({ cx, cy, width, height, turnDeg }: Ellipse, t: number): [number, number] {
  const [x, y] = [(width / 2) * Math.cos(t), (height / 2) * Math.sin(t)];
  const [cos, sin] = [Math.cos(turnDeg * RAD), Math.sin(turnDeg * RAD)];
  return [cx + x * cos - y * sin, cy + x * sin + y * cos];
}
/** 1 on an ellipse, less inside it. */
function levelIn({ cx, cy, width, height, turnDeg }: Ellipse, [x, y]: readonly [number, number]): number {
  const [cos, sin] = [Math.cos(turnDeg * RAD), Math.sin(turnDeg * RAD)];
  const [dx, dy] = [x - cx, y - cy];
  return Math.hypot((dx * cos + dy * sin) / (width / 2), (-dx * sin + dy * cos) / (height / 2));
}

it('lies where every point of it is projected to, whatever the map', () => {
  const near = (v: number, by: number) => fc.double({ min: v - by, max: v + by, noNaN: true });
  const map = fc.tuple(near(1, 0.4), near(0, 0.3), near(0, 50), near(0, 0.3), near(1, 0.4), near(0, 50));
  fc.assert(
    fc.property(map, near(0, 0.002), near(0, 0.002), (affine, p, q) => {
      const h = [...affine, p, q, 1] as unknown as Homography;
      const seen = projectedEllipse(ellipse, h)!;
      for (let t = 0; t < 6.2; t += 0.3) expect(levelIn(seen, project(h, ...at(ellipse, t)))).toBeCloseTo(1, 6);
    }),
  );
});
it('keeps its width the axis that it was, turned on with the map', () => {
  const turn = (deg: number): Homography => {
    const [c, s] = [Math.cos(deg * RAD), Math.sin(deg * RAD)];
    return [c, -s, 0, s, c, 0, 0, 0, 1];
  };
  const turned = projectedEllipse(ellipse, turn(35))!;
  expect([turned.width, turned.height, turned.turnDeg]).toEqual([40, 24, 45].map((v) => expect.closeTo(v, 9)));
  // made shorter along its width than it is high, it is not turned by a quarter
  const { width, height, turnDeg } = projectedEllipse({ ...ellipse, turnDeg: 0 }, [0.3, 0, 0, 0, 1, 0, 0, 0, 1])!;
  expect([width, height, turnDeg]).toEqual([12, 24, 0].map((v) => expect.closeTo(v, 9)));
  const upsideDown = projectedEllipse({ ...ellipse, turnDeg: 0 }, turn(180))!;
  expect(Math.abs(upsideDown.turnDeg)).toBeCloseTo(180, 9);
});
it('is none where the horizon goes through it', () =>
  expect(projectedEllipse(ellipse, [1, 0, 0, 0, 1, 0, 1 / 60, 0, -1] as unknown as Homography)).toBeUndefined());
