// The map of a placement, by the definition of its numbers.
import { describe, expect, it } from 'vitest';
import { project } from '../track/homography.ts';
import { placementAbout, placementMap } from './placement.ts';

const at = (more: Partial<ReturnType<typeof placementAbout>>, x: number, y: number) =>
  project(placementMap({ ...placementAbout(200, 100), ...more }), x, y);
const close = (found: readonly number[], u: number, v: number) =>
  expect(found).toEqual([expect.closeTo(u, 6), expect.closeTo(v, 6)]);

describe('a placement', () => {
  it('of nothing leaves every point', () => close(at({}, 37, 5), 37, 5));
  it('moves by its pixels', () => close(at({ moveX: 12, moveY: -7 }, 37, 5), 49, -2));
  it('turns about its pivot, clockwise on the screen', () => close(at({ turnDeg: 90 }, 300, 100), 200, 200));
  it('scales from its pivot', () => close(at({ scaleX: 2, scaleY: 0.5 }, 300, 140), 400, 120));
  it('shears what lies below to the left by the tangent', () => close(at({ shearDeg: 45 }, 200, 150), 150, 150));
  it('brings a point 100 px from the pivot nearer by a tenth and a bit for 1 ‰ a pixel of perspective', () => {
    // w = 1 + 100 · 0.001 = 1.1
    close(at({ perspectiveX: 1 }, 300, 100), 200 + 100 / 1.1, 100);
    close(at({ perspectiveY: 1 }, 200, 200), 200, 100 + 100 / 1.1);
  });
  it('leaves its pivot where it is, whatever it does', () =>
    close(at({ turnDeg: 33, scaleX: 3, shearDeg: 12, perspectiveX: 2 }, 200, 100), 200, 100));
});
