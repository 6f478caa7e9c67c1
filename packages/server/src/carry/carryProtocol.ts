import type { Balance, CarriedMask, CodePicture, Encoding, Stroke } from '@mellow/core';

/** A frame, at the size outlines are cut at. */
interface Picture {
  codes: CodePicture;
  encoding: Encoding;
  balance: Balance | undefined;
}
/** Where a pass sets out: the strokes on its first frame, and what was carried there before. */
export interface SetOut extends Picture {
  kind: 'set out';
  strokes: readonly Stroke[];
  /** The picture's size over the full resolution. */
  scale: number;
  carried: { mask: CarriedMask; weight: number }[];
}
export interface Step extends Picture {
  kind: 'step';
}
/** Keeps where the pass is, at a frame, in a file. */
export interface Keep {
  kind: 'keep';
  path: string;
  madeOf: string;
  at: number;
}
/** Goes on from a file. */
export interface GoOn {
  kind: 'go on';
  path: string;
  madeOf: string;
}
/** The mask of a frame as core's bytesOfMask gives it, and how sure it is; 0 where the piece is out of sight. */
export interface Found {
  mask: Uint8Array;
  certainty: number;
}
