// The clean-up of a matte that selects nothing outside a box, without a look at the rest of the picture.
import type { CleanUp } from '../document/cleaning.ts';
import { boxAround, cutOut, putBack, type PixelBox } from './bounds.ts';
import { blurReach, cleanUpInPlace, isCleanUpOff } from './cleanUp.ts';
import type { MatteSource } from './kind.ts';

/**
 * `cleanUpInPlace`, the same to the bit, computed in the box and as far round it as softening reaches. False, and
 * nothing done, where that cannot tell: what looks further (quieting, moving or fitting the edge), and what has
 * selected something where the picture goes on (levels that lift what is not selected, a hole that is the ground).
 */
export function cleanUpWithin(
  alpha: Float32Array,
  box: PixelBox,
  cleanUp: CleanUp,
  { width, height, scale }: Pick<MatteSource, 'width' | 'height' | 'scale'>,
): boolean {
  if (isCleanUpOff(cleanUp)) return true;
  const { quietPx, edgePx, fitEdge, softenPx } = cleanUp;
  if (quietPx > 0 || edgePx !== 0 || fitEdge > 0) return false;
  // with less room than a blur reaches all would be done in vain
  const around = boxAround(box, blurReach(softenPx * scale), width, height);
  const part = cutOut(alpha, width, around);
  const noGuide = () => new Float32Array(0);
  cleanUpInPlace(part, around.x1 - around.x0, around.y1 - around.y0, cleanUp, scale, noGuide);
  if (isSelectedAtCut(part, around, width, height)) return false;
  putBack(alpha, width, part, around);
  return true;
}

/** Is anything selected on a side where the picture goes on? */
function isSelectedAtCut(part: Float32Array, { x0, y0, x1, y1 }: PixelBox, width: number, height: number): boolean {
  const [w, h] = [x1 - x0, y1 - y0];
  const isAny = (first: number, count: number, step: number) => {
    for (let k = 0; k < count; k++) if (part[first + k * step]! > 0) return true;
    return false;
  };
  return (
    (y0 > 0 && isAny(0, w, 1)) ||
    (y1 < height && isAny((h - 1) * w, w, 1)) ||
    (x0 > 0 && isAny(0, h, w)) ||
    (x1 < width && isAny(w - 1, h, w))
  );
}
