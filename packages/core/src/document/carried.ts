// Selections carried from frame to frame, as they are stored.

/** One pass from a frame that has strokes to another, the first itself left out (backward when `to` lies before). */
export interface CarryRun {
  id: string;
  from: number;
  to: number;
  /** What the strokes on its first frame were: see carry/carryPlan. */
  strokes: string;
  /** How sure each frame is that it has found so far, in the order it goes, 0..1; left out: none found. */
  found?: number[] | undefined;
}

/** What was found on a frame by a pass, and how much of it counts, 0..1. */
export interface CarriedFrom {
  runId: string;
  frame: number;
  weight: number;
}

/** A mask as it was found, at the size outlines are cut at: 1 inside, else 0, row by row. */
export interface CarriedMask {
  width: number;
  height: number;
  inside: Uint8Array;
}
