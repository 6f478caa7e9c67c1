import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { Surround } from '../app/theme.ts';

/** How bright the room is that the screen fits into. */
const AT_FIRST: Surround = 'dim';

export const roomSlice = createSlice({
  name: 'surround',
  initialState: AT_FIRST as Surround,
  reducers: { surroundChosen: (_state, { payload }: PayloadAction<Surround>) => payload },
});
export const { surroundChosen } = roomSlice.actions;
