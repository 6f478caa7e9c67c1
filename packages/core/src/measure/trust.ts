// How far a measured colour can be trusted: of how much of the piece it is, and of how much that was cut off.

/** Below this share of what looks like the piece, a colour is that of a part of it. */
export const LOW_COVERAGE = 0.5;
/** From this share of its pixels on, a clipped result shows. */
export const MUCH_CLIPPED = 0.05;

/**
 * Shares, 0..1. `clipped`: of the piece's pixels, those that the recolour has driven past the end of the code range.
 */
export interface Trust {
  coverage: number;
  clipped: number;
}
export const isLowCoverage = ({ coverage }: Trust): boolean => coverage < LOW_COVERAGE;
export const isMuchClipped = ({ clipped }: Trust): boolean => clipped >= MUCH_CLIPPED;

/** Over the frames of a shot: the mean coverage, and the worst frame's clipping. Undefined without frames. */
export function shotTrust(frames: readonly { coverage: number; resultClippedShare: number }[]): Trust | undefined {
  if (frames.length === 0) return undefined;
  return {
    coverage: frames.reduce((sum, f) => sum + f.coverage, 0) / frames.length,
    clipped: Math.max(...frames.map((f) => f.resultClippedShare)),
  };
}
