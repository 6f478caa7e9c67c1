import { combineReducers, configureStore, createListenerMiddleware } from '@reduxjs/toolkit';
import { useDispatch, useSelector } from 'react-redux';
import { api } from '../data/api.ts';
import { onSignedOut } from '../data/requests.ts';
import { changedKeysFrom } from '../keys/keyTable.ts';
import { dialogSlice } from '../view/dialogSlice.ts';
import { draftSlice } from '../view/draftSlice.ts';
import { handSlice } from '../view/handSlice.ts';
import { keyframingRestored, keyframingSlice } from '../view/keyframingSlice.ts';
import { keysSlice } from '../view/keysSlice.ts';
import { liveSlice } from '../view/liveSlice.ts';
import { lookRestored, lookSlice } from '../view/lookSlice.ts';
import { playSlice } from '../view/playSlice.ts';
import { pointedSlice } from '../view/pointedSlice.ts';
import { remember, remembered } from '../view/remembered.ts';
import { roomFrom, roomSlice } from '../view/roomSlice.ts';
import { savingSlice } from '../view/savingSlice.ts';
import { signInSlice, signInWanted } from '../view/signInSlice.ts';
import { shotLeft } from '../view/shotLeft.ts';
import { traySlice } from '../view/traySlice.ts';
import { projectOpened, whereSlice } from '../view/whereSlice.ts';

const reducer = combineReducers({
  [api.reducerPath]: api.reducer,
  where: whereSlice.reducer,
  look: lookSlice.reducer,
  keyframing: keyframingSlice.reducer,
  hand: handSlice.reducer,
  draft: draftSlice.reducer,
  live: liveSlice.reducer,
  pointed: pointedSlice.reducer,
  playing: playSlice.reducer,
  saving: savingSlice.reducer,
  room: roomSlice.reducer,
  tray: traySlice.reducer,
  keys: keysSlice.reducer,
  dialog: dialogSlice.reducer,
  signIn: signInSlice.reducer,
});
export type RootState = ReturnType<typeof reducer>;

type Kept = Pick<Storage, 'getItem' | 'setItem'>;
const ROOM = 'mellow:room';
const KEYS = 'mellow:keys';
/** A store that tells when another shot comes into view and keeps the view in the browser's storage. */
export function storeWith(storage: Kept) {
  const listener = createListenerMiddleware<RootState>();
  listener.startListening({
    predicate: (_action, now, before) => now.where.shotId !== before.where.shotId,
    effect: (_action, { dispatch }) => void dispatch(shotLeft()),
  });
  listener.startListening({
    predicate: (_action, now, before) =>
      now.where !== before.where || now.look !== before.look || now.keyframing.mode !== before.keyframing.mode,
    effect(_action, told) {
      const { where, look, keyframing } = told.getState();
      const { projectId, ...rest } = where;
      if (projectId) remember(storage, projectId, { where: rest, look, keyframing: keyframing.mode });
    },
  });
  listener.startListening({
    predicate: (_action, now, before) => now.room !== before.room,
    effect: (_action, told) => storage.setItem(ROOM, JSON.stringify(told.getState().room)),
  });
  listener.startListening({
    predicate: (_action, now, before) => now.keys !== before.keys,
    effect: (_action, told) => storage.setItem(KEYS, JSON.stringify(told.getState().keys)),
  });
  return configureStore({
    reducer,
    preloadedState: { room: roomFrom(storage.getItem(ROOM)), keys: changedKeysFrom(storage.getItem(KEYS)) },
    middleware: (defaults) => defaults().prepend(listener.middleware).concat(api.middleware),
  });
}
/** Outside a browser nothing is kept. */
const nowhere: Kept = { getItem: () => null, setItem: () => undefined };
const storage: Kept = typeof localStorage === 'undefined' ? nowhere : localStorage;
export const store = storeWith(storage);
onSignedOut(() => store.dispatch(signInWanted()));
export type AppDispatch = typeof store.dispatch;
export const useAppDispatch = useDispatch.withTypes<AppDispatch>();
export const useAppSelector = useSelector.withTypes<RootState>();

/** Opens a project where it was left. */
export function openProject(projectId: string): void {
  if (store.getState().where.projectId === projectId) return;
  const { where, look, keyframing } = remembered(storage, projectId);
  store.dispatch(projectOpened({ projectId, left: where }));
  store.dispatch(lookRestored(look));
  store.dispatch(keyframingRestored(keyframing));
}
