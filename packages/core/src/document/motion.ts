/**
 * What a track may do. Shear stands for stretch along and across too: with all but perspective on it is an affine
 * motion.
 */
export interface Freedom {
  move: boolean;
  turn: boolean;
  scale: boolean;
  shear: boolean;
  perspective: boolean;
  /** How a soft surface bends beyond all that; see flex.ts. */
  flex?: boolean | undefined;
}

/** Which track a layer rides on, and which parts of its motion it takes. */
export interface Follow extends Freedom {
  trackId: string;
}
