import type { Freedom, Geometry, Homography, TrackedFrame } from '@mellow/core';

/** Sets a tracker up on its reference frame. Luma planes are 16-bit codes. */
export interface SetUp {
  kind: 'set up';
  luma: Uint16Array;
  width: number;
  height: number;
  region: Geometry;
  holdOuts: Geometry[];
  freedom: Freedom;
}
/** The next frame; with `guess` the region is looked for there anew. */
export interface Step {
  kind: 'step';
  luma: Uint16Array;
  holdOuts: Geometry[];
  guess?: Homography | undefined;
}
/** Gets the thread's code compiled while nobody waits. */
export interface WarmUp {
  kind: 'warm up';
}
export type Request = { id: number } & (SetUp | Step | WarmUp);
export type Answer = { id: number } & (
  { ok: true; textureErrorPx?: number; found?: TrackedFrame } | { ok: false; message: string }
);
