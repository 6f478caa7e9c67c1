import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { EventData, Presence } from '@mellow/contract';
import { projectOpened } from './whereSlice.ts';

export interface Measuring {
  sightingId: string;
  done: number;
  total: number;
}
/** Something that could not be done, and why; it stays until it is put away. */
interface Refusal {
  id: number;
  text: string;
  /** When, as milliseconds since 1970. */
  at: number;
}
const AT_FIRST = {
  here: 1,
  /** Open pages of people who have signed in, this one too. */
  people: [] as Presence[],
  measuring: [] as Measuring[],
  refusals: [] as Refusal[],
  putAway: [] as string[],
};

/** What goes on beside the work: who is here, what is measured, what was refused. */
export const traySlice = createSlice({
  name: 'tray',
  initialState: AT_FIRST,
  reducers: {
    presentTold(state, { payload }: PayloadAction<EventData<'present'>>) {
      state.here = payload.here;
      state.people = payload.people;
    },
    measuringWent(state, { payload }: PayloadAction<Measuring>) {
      state.measuring = state.measuring.filter((m) => m.sightingId !== payload.sightingId);
      if (payload.done < payload.total) state.measuring.push(payload);
    },
    measuringEnded(state, { payload }: PayloadAction<string>) {
      state.measuring = state.measuring.filter((m) => m.sightingId !== payload);
    },
    refused(state, { payload }: PayloadAction<{ text: string; at: number }>) {
      state.refusals.unshift({ ...payload, id: (state.refusals[0]?.id ?? 0) + 1 });
    },
    refusalPutAway(state, { payload }: PayloadAction<number>) {
      state.refusals = state.refusals.filter((r) => r.id !== payload);
    },
    /** A job that has ended is not listed any more. */
    jobPutAway(state, { payload }: PayloadAction<string>) {
      state.putAway.push(payload);
    },
  },
  extraReducers: (build) => build.addCase(projectOpened, () => AT_FIRST),
});
export const { presentTold, measuringWent, measuringEnded, refused, refusalPutAway, jobPutAway } = traySlice.actions;
