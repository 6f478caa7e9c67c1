import { boundsOfMatte } from '../matte/bounds.ts';
import { shrunk } from '../scribble/resized.ts';
import { SelectionCarrier, type CarriedFrame, type CarriedPicture } from './selectionCarrier.ts';

/** A piece narrower than this, pixels, is quick at its own size, and would be lost at half of it. */
const NARROW_PX = 200;

/** A frame at half its size, rounded up; itself where it is too small for that. */
function halfOf(picture: CarriedPicture): CarriedPicture {
  const { oklab, luma } = picture;
  const [whole, half] = luma;
  if (!whole || !half) return picture;
  const to = (plane: Float32Array) => shrunk(plane, whole.width, whole.height, half.width, half.height);
  return { oklab: { L: to(oklab.L), a: to(oklab.a), b: to(oklab.b) }, luma: luma.slice(1) };
}
function isNarrow(alpha: Float32Array, { width, height }: { width: number; height: number }): boolean {
  const box = boundsOfMatte(alpha, width, height);
  return box === undefined || Math.min(box.x1 - box.x0, box.y1 - box.y0) < NARROW_PX;
}

/** What was found of a frame, at the size it was looked at. */
export interface QuicklyCarried extends CarriedFrame {
  width: number;
  height: number;
}
/**
 * A first answer to how a selection will go on: carried from a frame over those that follow it (or come before it,
 * nearest first), at half their size, unless the piece is narrow. `alpha`: what is selected on the frame, at its own
 * size, 0..1. How near it comes to what the frames at their own size give, and in what time: docs/accuracy.md.
 */
export function* carriedQuickly(
  frame: CarriedPicture,
  alpha: Float32Array,
  following: Iterable<CarriedPicture>,
): Generator<QuicklyCarried> {
  const whole = frame.luma[0]!;
  const sized = isNarrow(alpha, whole) ? (picture: CarriedPicture) => picture : halfOf;
  const first = sized(frame);
  const { width, height } = first.luma[0]!;
  const mask = shrunk(alpha, whole.width, whole.height, width, height).map((a) => (a >= 0.5 ? 1 : 0));
  const carrier = SelectionCarrier.from(first, mask);
  for (const next of following) yield { width, height, ...carrier.step(sized(next)) };
}
