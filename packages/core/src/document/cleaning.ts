import type { ShapeMatte } from './geometry.ts';
import type { Follow } from './motion.ts';

/** What is done to a matte, in this order. Lengths are full-resolution picture pixels, areas square ones. */
export interface CleanUp {
  /** Radius of the edge-preserving smoothing, guided by the picture's lightness; 0 is off. */
  quietPx: number;
  /** α at and below the floor becomes 0, at and above the ceiling 1, linear between; 0 ≤ floor < ceiling ≤ 1. */
  floor: number;
  ceiling: number;
  /** Islands and holes under this area go. */
  islandsPx: number;
  holesPx: number;
  /** Grow (+) or shrink (−). */
  edgePx: number;
  /** Standard deviation of the softening. */
  softenPx: number;
  /** −1 softens only inwards, 0 both ways, +1 only outwards. */
  softenBias: number;
  /** 0..0.3: how far the finished edge may be set right by the picture; 0 is off, 0.1 for good mattes, 0.2 by hand. */
  fitEdge: number;
}

/**
 * What to do with the piece's colour outside its matte. `remove` takes the old colour out of the fringe round the edge;
 * `bounce` carries the change of colour onto a floor or a wall that is marked (`within`).
 */
export interface Spill {
  mode: 'off' | 'remove' | 'bounce';
  /** How far from the matte it is looked for, full-resolution pixels. */
  reachPx: number;
  /** 0..1 on what is found. */
  amount: number;
  /**
   * How far a colour may lie off the way between surroundings and piece, OKLab a,b; beyond it belongs to something
   * else.
   */
  tolerance: number;
  /**
   * Only here; left out: everywhere within reach. On a frame `geometry` lies where the track it follows has carried it.
   */
  within?: (ShapeMatte & { follow?: Follow | undefined }) | undefined;
  /** It once stood at “follow”, which is no longer offered. */
  retired?: true | undefined;
}
