import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { ScopeKind, ScopePart } from '@mellow/core';
import type { Show } from '../engine/frameProtocol.ts';

export const VIEWS = ['Result', 'Source', 'Matte', 'Tint', 'Cut-out', 'Difference'] as const satisfies readonly Show[];
export const COMPARES = ['off', 'wipe', 'side by side', 'blink'] as const;
export type Compare = (typeof COMPARES)[number];
export const GROUNDS = ['grey', 'black', 'white'] as const;

/**
 * What the picture is compared with: the source, the own matte of the layer in hand, a still, or the same frame in
 * another colourway or version.
 */
export type Against =
  | { kind: 'source' }
  | { kind: 'layer' }
  | { kind: 'still'; id: string }
  | { kind: 'colourway'; id: string }
  | { kind: 'version'; id: string };

/** Where scopes stand. */
export const SCOPE_PLACES = ['off', 'beside', 'panel'] as const;
export type ScopePlace = (typeof SCOPE_PLACES)[number];

/** How the picture is looked at; brought back after a reload. */
export interface Look {
  view: (typeof VIEWS)[number];
  /** Tint strength, 0..1. */
  tint: number;
  /** What a cut-out lies on. */
  ground: (typeof GROUNDS)[number];
  /** With the matte, those of the frames beside it. */
  beside: boolean;
  compare: Compare;
  against: Against;
  /** Where the wipe's line passes (0..1 of the picture) and its direction, degrees from upright. */
  wipe: { x: number; y: number; deg: number };
  /** Brightness of the view only, stops, for drawing in the dark. */
  exposureStops: number;
  scope: { place: ScopePlace; kind: ScopeKind; part: ScopePart };
}
export const PLAIN_LOOK: Look = {
  view: 'Result',
  tint: 0.6,
  ground: 'grey',
  beside: false,
  compare: 'off',
  against: { kind: 'source' },
  wipe: { x: 0.5, y: 0.5, deg: 0 },
  exposureStops: 0,
  scope: { place: 'off', kind: 'vectorscope', part: 'picture' },
};

export const lookSlice = createSlice({
  name: 'look',
  initialState: PLAIN_LOOK,
  reducers: {
    lookRestored: (_state, { payload }: PayloadAction<Look>) => payload,
    lookChanged: (state, { payload }: PayloadAction<Partial<Look>>) => ({ ...state, ...payload }),
  },
});
export const { lookRestored, lookChanged } = lookSlice.actions;
