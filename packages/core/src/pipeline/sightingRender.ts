import type { CleanUp, Spill } from '../document/cleaning.ts';
import type { Layer } from '../document/layer.ts';
import type { Program } from '../recolour/program.ts';

/** One piece on this frame: where it is, and what becomes of its colour. */
export interface SightingRender {
  program: Program;
  layers: readonly Layer[];
  /** Clean-up of the whole stack; left out: none. */
  cleanUp?: CleanUp | undefined;
  /** What happens to the old colour outside the matte; left out: nothing. */
  spill?: Spill | undefined;
  /**
   * Frames on either side that the finished matte is steadied over; left out or 0: it stands alone. Needs the frames
   * around: see `steadiedMatte`.
   */
  steadyFrames?: number | undefined;
}
