// @vitest-environment node
import { beforeEach, expect, it } from 'vitest';
import { drawingFor } from '../view/handSlice.ts';
import { keyframingChanged } from '../view/keyframingSlice.ts';
import { keyChanged } from '../view/keysSlice.ts';
import { lookChanged } from '../view/lookSlice.ts';
import { playToggled } from '../view/playSlice.ts';
import { remembered } from '../view/remembered.ts';
import { surroundChosen, textStepped } from '../view/roomSlice.ts';
import { moved, NOWHERE, projectOpened } from '../view/whereSlice.ts';
import { storeWith } from './store.ts';

const kept = new Map<string, string>();
const storage = { getItem: (k: string) => kept.get(k) ?? null, setItem: (k: string, v: string) => void kept.set(k, v) };
beforeEach(() => kept.clear());

it('tells everyone when another shot comes into view, and only then', () => {
  const store = storeWith(storage);
  store.dispatch(moved({ shotId: 's1' }));
  store.dispatch(playToggled(true));
  store.dispatch(drawingFor('track'));
  store.dispatch(moved({ shotId: 's1', frame: 4 }));
  expect([store.getState().playing, store.getState().hand.drawFor]).toEqual([true, 'track']);
  store.dispatch(moved({ shotId: 's2' }));
  expect([store.getState().playing, store.getState().hand.drawFor]).toEqual([false, 'layer']);
});

it('keeps the view of the open project in the browser, and of none before one is open', () => {
  const store = storeWith(storage);
  store.dispatch(lookChanged({ tint: 0.1 }));
  expect([...kept.keys()]).toEqual([]);
  store.dispatch(projectOpened({ projectId: 'p', left: NOWHERE }));
  store.dispatch(moved({ frame: 9 }));
  store.dispatch(lookChanged({ view: 'Matte' }));
  store.dispatch(keyframingChanged({ everywhere: true }));
  expect(remembered(storage, 'p')).toMatchObject({
    where: { frame: 9 },
    look: { view: 'Matte', tint: 0.1 },
    keyframing: { everywhere: true },
  });
});

it('keeps the room as it was chosen', () => {
  const store = storeWith(storage);
  store.dispatch(surroundChosen('bright'));
  store.dispatch(textStepped(1));
  expect(storeWith(storage).getState().room).toEqual({ surround: 'bright', textStep: 1 });
  for (const broken of ['not json', 'null', '{"surround":"dark","textStep":9}']) {
    kept.set('mellow:room', broken);
    expect(storeWith(storage).getState().room).toEqual({ surround: 'dim', textStep: 0 });
  }
});

it('keeps changed keys, and leaves out what clashes or is no key by now', () => {
  storeWith(storage).dispatch(keyChanged({ id: 'fit', keys: ['z'] }));
  expect(storeWith(storage).getState().keys).toEqual({ fit: ['z'] });
  kept.set('mellow:keys', JSON.stringify({ fit: ['q'], wipe: ['alt+w'], nothing: ['m'], play: 'p' }));
  expect(storeWith(storage).getState().keys).toEqual({ wipe: ['alt+w'] });
});
