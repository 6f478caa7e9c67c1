import { configureStore } from '@reduxjs/toolkit';
import { useDispatch, useSelector } from 'react-redux';
import { api } from './api.ts';
import { viewSlice } from './viewSlice.ts';

export const store = configureStore({
  reducer: { [api.reducerPath]: api.reducer, view: viewSlice.reducer },
  middleware: (defaults) => defaults().concat(api.middleware),
});
export type RootState = ReturnType<typeof store.getState>;
export type AppDispatch = typeof store.dispatch;
export const useAppDispatch = useDispatch.withTypes<AppDispatch>();
export const useAppSelector = useSelector.withTypes<RootState>();

let kept = '';
store.subscribe(() => {
  const { projectId, place, surround } = store.getState().view;
  const now = JSON.stringify([projectId, place, surround]);
  if (now === kept) return;
  kept = now;
  localStorage.setItem('mellow:surround', surround);
  if (projectId) localStorage.setItem(`mellow:place:${projectId}`, JSON.stringify(place));
});
