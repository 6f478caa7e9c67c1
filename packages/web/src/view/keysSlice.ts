import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { ChangedKeys, CommandId } from '../keys/keyTable.ts';

const AS_IN_THE_TABLE: ChangedKeys = {};

/** The keys that differ from those of the table; kept by the browser. */
export const keysSlice = createSlice({
  name: 'keys',
  initialState: AS_IN_THE_TABLE,
  reducers: {
    keyChanged(state, { payload: { id, keys } }: PayloadAction<{ id: CommandId; keys: readonly string[] }>) {
      state[id] = [...keys];
    },
    keyReset(state, { payload }: PayloadAction<CommandId>) {
      delete state[payload];
    },
    keysReset: () => AS_IN_THE_TABLE,
  },
});
export const { keyChanged, keyReset, keysReset } = keysSlice.actions;
