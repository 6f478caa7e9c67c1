import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { Surround } from '../app/theme.ts';

/** How bright the room is that the screen fits into. */
export const roomSlice = createSlice({
  name: 'surround',
  initialState: (): Surround => 'dim',
  reducers: { surroundChosen: (_state, { payload }: PayloadAction<Surround>) => payload },
});
export const { surroundChosen } = roomSlice.actions;
