// What lies in and around a mask: its outline's distances, its colours, parts of planes.
import type { OklabPlanes } from '../colour/oklabPlanes.ts';
import { boundsOfMatte, cutOut, putBack, type PixelBox } from '../matte/bounds.ts';
import { colourOdds, oddsTable } from '../scribble/colourOdds.ts';
import { signedDistance } from '../scribble/signedDistance.ts';
import { FAR_OUT } from './evidence.ts';

/** Colours of the surroundings are those up to so far from the outline, pixels. */
const RING = 60;

/** A box of a frame’s colours. */
export function partOf({ L, a, b }: OklabPlanes, width: number, box: PixelBox): OklabPlanes {
  return { L: cutOut(L, width, box), a: cutOut(a, width, box), b: cutOut(b, width, box) };
}
/** A part put into a plane that is otherwise `rest`. */
export function wholePlane(
  part: Float32Array,
  box: PixelBox,
  rest: Float32Array | number,
  width: number,
  height: number,
): Float32Array {
  const plane = new Float32Array(width * height);
  if (typeof rest === 'number') plane.fill(rest);
  else plane.set(rest);
  putBack(plane, width, part, box);
  return plane;
}
function boxAround(mask: Float32Array, margin: number, width: number, height: number): PixelBox | undefined {
  const box = boundsOfMatte(mask, width, height);
  if (!box) return undefined;
  const [x0, y0] = [Math.max(box.x0 - margin, 0), Math.max(box.y0 - margin, 0)];
  return { x0, y0, x1: Math.min(box.x1 + margin, width), y1: Math.min(box.y1 + margin, height) };
}
/** Signed distances to a mask's outline, up to `FAR_OUT`. */
export function distancesTo(mask: Float32Array, width: number, height: number): Float32Array {
  const box = boxAround(mask, FAR_OUT, width, height);
  if (!box) return new Float32Array(mask.length).fill(-FAR_OUT);
  const part = signedDistance(cutOut(mask, width, box), box.x1 - box.x0, box.y1 - box.y0);
  for (let i = 0; i < part.length; i++) part[i] = Math.min(Math.max(part[i]!, -FAR_OUT), FAR_OUT);
  return wholePlane(part, box, -FAR_OUT, width, height);
}
/** What the colours of a frame say of its mask's inside against what lies round about, as a table. */
export function coloursOf(oklab: OklabPlanes, mask: Float32Array, width: number, height: number): Float32Array {
  const box = boxAround(mask, RING + 1, width, height);
  if (!box) return oddsTable(() => 0);
  const distance = signedDistance(cutOut(mask, width, box), box.x1 - box.x0, box.y1 - box.y0);
  const marks = new Int8Array(distance.length);
  for (let i = 0; i < marks.length; i++) {
    if (distance[i]! > 1.5) marks[i] = 1;
    else if (distance[i]! < -2 && distance[i]! > -RING) marks[i] = -1;
  }
  if (!marks.includes(1) || !marks.includes(-1)) return oddsTable(() => 0);
  return oddsTable(colourOdds(partOf(oklab, width, box), marks, () => false));
}
