import { createSlice, type PayloadAction } from '@reduxjs/toolkit';

export const SURROUND_NAMES = ['dim', 'mid', 'bright'] as const;
export type Surround = (typeof SURROUND_NAMES)[number];
/** How much larger than usual text is, in steps. */
export const TEXT_STEPS = ['usual', 'larger', 'largest'] as const;

/** What the screen has to fit: how bright the room is, and from how far it is read. Kept by the browser. */
export interface Room {
  surround: Surround;
  /** Index into TEXT_STEPS. */
  textStep: number;
}
const USUAL_ROOM: Room = { surround: 'dim', textStep: 0 };

/** A room as it was kept; the usual one for whatever is not understood. */
export function roomFrom(text: string | null): Room {
  let kept: Partial<Room> | null = null;
  try {
    kept = JSON.parse(text ?? '{}') as Partial<Room> | null;
  } catch {
    // the usual
  }
  const surround = SURROUND_NAMES.find((name) => name === kept?.surround) ?? USUAL_ROOM.surround;
  const textStep = kept?.textStep !== undefined && TEXT_STEPS[kept.textStep] ? kept.textStep : USUAL_ROOM.textStep;
  return { surround, textStep };
}

export const roomSlice = createSlice({
  name: 'room',
  initialState: USUAL_ROOM,
  reducers: {
    surroundChosen(state, { payload }: PayloadAction<Surround>) {
      state.surround = payload;
    },
    textStepped(state, { payload }: PayloadAction<number>) {
      state.textStep = payload;
    },
  },
});
export const { surroundChosen, textStepped } = roomSlice.actions;
