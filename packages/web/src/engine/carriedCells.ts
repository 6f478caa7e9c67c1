// What strokes select, carried quickly over the frames beside theirs: loaded with the first selection that is carried.
import type { SourceFrame } from '@mellow/core';
import { carriedQuickly } from '@mellow/core/carriedQuickly';
import type { CarriedCell } from './frameProtocol.ts';
import { cutOutCell } from './overTime.ts';
import { onScreen, scaledPicture } from './screen.ts';

const carriedPicture = (frame: SourceFrame) => ({ oklab: frame.oklab(), luma: frame.luma() });

/** What is found on each of the frames that follow, in a cell of so many pixels. `alpha`: selected on the first. */
export function carriedCells(
  frame: SourceFrame,
  alpha: Float32Array,
  following: readonly SourceFrame[],
  cell: { width: number; height: number },
): CarriedCell[] {
  const found = carriedQuickly(carriedPicture(frame), alpha, following.map(carriedPicture));
  return [...found].map(({ width, height, mask, certainty }, k) => {
    const { codes, encoding } = following[k]!;
    const picture = scaledPicture(onScreen(codes, encoding), width, height);
    return { ...cutOutCell(picture, mask, cell.width, cell.height), certainty };
  });
}
