// The part of a picture that recolours have to do with.
import { boundsOfMatte, unitedBox, type PixelBox } from '../matte/bounds.ts';
import type { SightingRender } from './sightingRender.ts';

/** The pixels round a matte that its edge is told from. */
const MARGIN = 2;

/** Does a recolour look further than a pixel's neighbours? */
export const looksFurther = ({ program, spill }: SightingRender): boolean =>
  Boolean(program.outside ?? program.texture ?? program.sheen) || (spill !== undefined && spill.mode !== 'off');

/** What any of the mattes selects, with a margin; undefined for nothing. */
export function selectedBox(mattes: readonly Float32Array[], width: number, height: number): PixelBox | undefined {
  const boxes = mattes.flatMap((alpha) => boundsOfMatte(alpha, width, height, 0) ?? []);
  if (boxes.length === 0) return undefined;
  const { x0, y0, x1, y1 } = boxes.reduce(unitedBox);
  return {
    x0: Math.max(x0 - MARGIN, 0),
    y0: Math.max(y0 - MARGIN, 0),
    x1: Math.min(x1 + MARGIN, width),
    y1: Math.min(y1 + MARGIN, height),
  };
}
