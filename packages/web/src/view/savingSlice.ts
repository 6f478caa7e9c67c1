import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { SetAside } from '../editing/outbox.ts';

export type Saving = 'saved' | 'saving' | 'offline';

/** How saving stands, and what could not be saved. */
export const savingSlice = createSlice({
  name: 'saving',
  initialState: { state: 'saved' as Saving, aside: [] as SetAside[] },
  reducers: {
    savingChanged(slice, { payload }: PayloadAction<Saving>) {
      slice.state = payload;
    },
    asideChanged(slice, { payload }: PayloadAction<SetAside[]>) {
      slice.aside = payload;
    },
  },
});
export const { savingChanged, asideChanged } = savingSlice.actions;
