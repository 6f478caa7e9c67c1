// One picture for each way of looking at a frame.
import type { CodePicture, RenderedFrame, SourceFrame } from '@mellow/core';
import type { Picture, Show, ShowTask } from './frameProtocol.ts';
import { cutOutInPlace, difference, greyOnScreen, onScreen, SPILL_TINT, TINT, tintInPlace } from './screen.ts';

/** A frame that has been computed. `rendered` is there for every view but the source's own. */
export interface Computed {
  frame: SourceFrame;
  rendered: RenderedFrame | undefined;
  /** α of what is looked at: the layer shown alone, or the stack in hand, or nothing. */
  alpha: Float32Array;
  /** A layer is shown alone. */
  isSolo: boolean;
  through: SeenThrough;
}
type OnPicture = (codes: CodePicture) => CodePicture;
/** What a frame is seen through on the screen, if anything. */
export interface SeenThrough {
  look?: OnPicture | undefined;
  viewTable?: OnPicture | undefined;
  /** Stops brighter on the screen; left out: as it is. */
  stops?: number | undefined;
}
/** What viewing tables are made for: a monitor after ITU-R BT.1886 (common practice, no source). */
const MONITOR = 'rec709';
/** Codes of a frame on the screen, through its look and the viewing table. */
export function seen(codes: CodePicture, { encoding }: SourceFrame, { look, viewTable, stops }: SeenThrough): Picture {
  const looked = look ? look(codes) : codes;
  return viewTable ? onScreen(viewTable(looked), MONITOR, stops) : onScreen(looked, encoding, stops);
}
const source = ({ frame, through }: Computed): Picture => seen(frame.codes, frame, through);
const result = ({ frame, rendered, through }: Computed): Picture => seen(rendered!.codes, frame, through);

/** How much stronger spill is tinted than the piece: there is less of it. */
const SPILL_STRENGTH = 1.4;
const PICTURES: Record<Show, (computed: Computed, task: ShowTask) => Picture> = {
  Source: source,
  Result: result,
  Matte: ({ frame, alpha }) => greyOnScreen(alpha, frame.codes.width, frame.codes.height),
  Difference: (computed) => difference(source(computed), result(computed)),
  'Cut-out': (computed, { ground }) => {
    const picture = result(computed);
    cutOutInPlace(picture, computed.alpha, ground);
    return picture;
  },
  Tint: (computed, { index, tint, sightings }) => {
    const picture = source(computed);
    tintInPlace(picture, computed.alpha, TINT, tint);
    const isSpillShown = index >= 0 && !computed.isSolo && sightings[index]!.spill?.mode === 'remove';
    const spill = isSpillShown ? computed.rendered!.spills[index] : undefined;
    if (spill) tintInPlace(picture, spill.share, SPILL_TINT, Math.min(tint * SPILL_STRENGTH, 1));
    return picture;
  },
};
export const pictureOf = (computed: Computed, task: ShowTask): Picture => PICTURES[task.show](computed, task);

/** Is anything recoloured for this? A source or a matte on its own is not. */
export const needsRender = ({ show, measure }: ShowTask): boolean => measure || (show !== 'Source' && show !== 'Matte');
