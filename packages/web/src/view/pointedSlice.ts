import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { Oklab } from '@mellow/core';

/** What is pointed at: the colour under the pointer in the picture, and the place under it in the key field. */
export const pointedSlice = createSlice({
  name: 'pointed',
  initialState: { probe: null as Oklab | null, near: null as { a: number; b: number } | null },
  reducers: {
    probed(state, { payload }: PayloadAction<Oklab | null>) {
      state.probe = payload;
    },
    fieldHovered(state, { payload }: PayloadAction<{ a: number; b: number } | null>) {
      state.near = payload;
    },
  },
});
export const { probed, fieldHovered } = pointedSlice.actions;
