// What a kind of key must say of itself to take its place in the table of keys.
import type { Encoding } from '../colour/encoding.ts';
import type { OklabPlanes } from '../colour/oklabPlanes.ts';
import type { EncodedPlanes } from '../colour/planes.ts';
import type { KeyByKind, KeyKind, RangeKey, Window } from '../document/key.ts';
import type { PickedColours } from './solveWindows.ts';

/** The picture as a key reads it; planes are made when they are first asked for. */
export interface KeyPicture {
  oklab: () => OklabPlanes;
  encoded: () => EncodedPlanes;
  /** α of a range key without its OKLab planes; left out, or false: they are there, or have to be made. */
  rangeKey?: ((out: Float32Array, key: RangeKey) => boolean) | undefined;
}

/** One window of a key, as its controls show it. */
export interface KeyWindow {
  name: string;
  label: string;
  window: Window;
  /** What its edges may be set to at the most, and by what they are nudged. */
  max: number;
  step: number;
  digits: number;
  /** Which of the frame's histograms over 0..1 it is a window on; undefined where it is on none of them. */
  histogram?: 'lightness' | 'red' | 'green' | 'blue' | 'luma' | undefined;
}

export interface KeyKindEntry<K extends KeyKind> {
  label: string;
  /** α of a picture under a key. */
  into: (out: Float32Array, picture: KeyPicture, key: KeyByKind[K]) => void;
  /**
   * A key after one more pick on top of what it is now; `earlier` are the picks already in it. Null: nothing selected
   * yet.
   */
  withPick: (
    key: KeyByKind[K] | null,
    pick: PickedColours,
    earlier: readonly PickedColours[],
    encoding: Encoding,
  ) => KeyByKind[K] | null;
  /** What is kept of a key when it is solved anew from all its picks. */
  kept: (before: KeyByKind[K] | null) => KeyByKind[K] | null;
  /** Its windows, in the order its controls show them; a key that has none is shown by controls of its own. */
  windows: (key: KeyByKind[K]) => KeyWindow[];
}

/** The controls of a window on a value that runs from 0 to 1. */
export const unitWindow = (
  name: string,
  label: string,
  window: Window,
  histogram: KeyWindow['histogram'],
): KeyWindow => ({ name, label, window, max: 1.5, step: 0.01, digits: 3, histogram });
