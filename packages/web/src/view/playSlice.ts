import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import { shotLeft } from './shotLeft.ts';
import { projectOpened } from './whereSlice.ts';

/** Is the shot playing? */
export const playSlice = createSlice({
  name: 'playing',
  initialState: false,
  reducers: { playToggled: (playing, { payload }: PayloadAction<boolean | undefined>) => payload ?? !playing },
  extraReducers: (build) => build.addCase(shotLeft, () => false).addCase(projectOpened, () => false),
});
export const { playToggled } = playSlice.actions;
