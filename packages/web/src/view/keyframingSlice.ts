import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { StageName } from '../app/stages.ts';
import type { Ease } from '@mellow/core';
import { shotLeft } from './shotLeft.ts';

/** How edits meet keyframes; brought back after a reload. */
export interface KeyframingMode {
  /** The stages at which edits make keyframes where there are none. */
  auto: Readonly<Partial<Record<StageName, boolean>>>;
  /** They go to all keyframes alike. */
  everywhere: boolean;
  /** How a new keyframe goes on. */
  ease: Ease;
}
export const PLAIN_KEYFRAMING: KeyframingMode = { auto: {}, everywhere: false, ease: 'smooth' };

export const keyframingSlice = createSlice({
  name: 'keyframing',
  /** `chosen`: keyframes picked out in the lanes under the ruler, as `lane@frame`. */
  initialState: { mode: PLAIN_KEYFRAMING, chosen: [] as string[] },
  reducers: {
    keyframingRestored(state, { payload }: PayloadAction<KeyframingMode>) {
      state.mode = payload;
    },
    keyframingChanged(state, { payload }: PayloadAction<Partial<KeyframingMode>>) {
      Object.assign(state.mode, payload);
    },
    keyframesChosen(state, { payload }: PayloadAction<string[]>) {
      state.chosen = payload;
    },
  },
  extraReducers: (build) =>
    build.addCase(shotLeft, (state) => {
      state.chosen = [];
    }),
});
export const { keyframingRestored, keyframingChanged, keyframesChosen } = keyframingSlice.actions;
