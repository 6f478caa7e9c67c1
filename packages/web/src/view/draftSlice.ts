import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type {
  Animated,
  Balance,
  CleanUp,
  Layer,
  Look,
  RecipeNumbers,
  ShotId,
  ShotLight,
  Spill,
  Track,
} from '@mellow/contract';

/** What a hand is moving right now: shown at once, saved as one step when it lets go. */
export interface Draft {
  sighting?: { sightingId: string; layers?: Layer[]; cleanUp?: CleanUp; spill?: Spill; animated?: Animated };
  balance?: { shotId: string; balance: Balance };
  light?: { shotId: string; light: ShotLight };
  recipe?: { pieceId: string; colourwayId: string; animated?: Record<string, Animated> } & RecipeNumbers;
  track?: Track;
  look?: { whose: ShotId | 'project'; look: Look };
}
const NOTHING: Draft = {};

export const draftSlice = createSlice({
  name: 'draft',
  initialState: NOTHING,
  reducers: {
    dragged: (state, { payload }: PayloadAction<Draft>) => ({ ...state, ...payload }),
    draftDropped: () => NOTHING,
  },
});
export const { dragged, draftDropped } = draftSlice.actions;
