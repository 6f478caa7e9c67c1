import type { Placement } from '../document/geometry.ts';
import { compose, type Homography } from '../track/homography.ts';

export const placementAbout = (pivotX: number, pivotY: number): Placement => ({
  pivotX,
  pivotY,
  moveX: 0,
  moveY: 0,
  turnDeg: 0,
  scaleX: 1,
  scaleY: 1,
  shearDeg: 0,
  perspectiveX: 0,
  perspectiveY: 0,
});

/** The map of the picture plane: perspective, scale, shear, turn about the pivot, then the move. */
export function placementMap(p: Placement): Homography {
  const [cos, sin] = [Math.cos((p.turnDeg * Math.PI) / 180), Math.sin((p.turnDeg * Math.PI) / 180)];
  const lean = Math.tan((p.shearDeg * Math.PI) / 180);
  const linear = compose(
    [cos, -sin, 0, sin, cos, 0, 0, 0, 1],
    compose([1, -lean, 0, 0, 1, 0, 0, 0, 1], [p.scaleX, 0, 0, 0, p.scaleY, 0, 0, 0, 1]),
  );
  const bent = compose(linear, [1, 0, 0, 0, 1, 0, p.perspectiveX / 1000, p.perspectiveY / 1000, 1]);
  return compose(
    [1, 0, p.pivotX + p.moveX, 0, 1, p.pivotY + p.moveY, 0, 0, 1],
    compose(bent, [1, 0, -p.pivotX, 0, 1, -p.pivotY, 0, 0, 1]),
  );
}
