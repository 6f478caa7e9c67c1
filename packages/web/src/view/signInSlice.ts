import { createSlice } from '@reduxjs/toolkit';

/** Has the server said that one must sign in? */
export const signInSlice = createSlice({
  name: 'signIn',
  initialState: { isWanted: false },
  reducers: {
    signInWanted(state) {
      state.isWanted = true;
    },
  },
});
export const { signInWanted } = signInSlice.actions;
