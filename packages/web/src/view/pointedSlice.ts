import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { Oklab } from '@mellow/core';

/** The pixel under the pointer: its colour in the source, its normalised codes as shown, how far across it lies. */
export interface Probed {
  oklab: Oklab;
  codes: [number, number, number];
  column: number;
}

/** What is pointed at: the colour under the pointer in the picture, and the place under it in the key field. */
export const pointedSlice = createSlice({
  name: 'pointed',
  initialState: { probe: null as Probed | null, near: null as { a: number; b: number } | null },
  reducers: {
    probed(state, { payload }: PayloadAction<Probed | null>) {
      state.probe = payload;
    },
    fieldHovered(state, { payload }: PayloadAction<{ a: number; b: number } | null>) {
      state.near = payload;
    },
  },
});
export const { probed, fieldHovered } = pointedSlice.actions;
