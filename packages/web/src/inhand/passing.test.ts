import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { store } from '../app/store.ts';
import { moved } from '../view/whereSlice.ts';
import { frameInSight, isPassing, passFrame, restOnFrame } from './passing.ts';
import { REST_MS } from './useCalmly.ts';

const listeners = new Map<string, () => void>();
beforeEach(() => {
  vi.useFakeTimers();
  vi.stubGlobal('addEventListener', (kind: string, hears: () => void) => listeners.set(kind, hears));
  vi.stubGlobal('removeEventListener', (kind: string) => listeners.delete(kind));
  store.dispatch(moved({ shotId: 's1', frame: 4 }));
});
afterEach(() => {
  restOnFrame();
  vi.unstubAllGlobals();
  vi.useRealTimers();
});
const inHand = () => store.getState().where.frame;

it('frames pass without the page being told, until they rest for a while', () => {
  for (const frame of [5, 6, 7]) passFrame(frame);
  expect([frameInSight(), inHand(), isPassing()]).toEqual([7, 4, true]);
  vi.advanceTimersByTime(REST_MS - 1);
  expect(inHand()).toBe(4);
  vi.advanceTimersByTime(1);
  expect([inHand(), isPassing()]).toEqual([7, true]);
});
it('the one that was in sight last is in hand at once when they are let go', () => {
  passFrame(9);
  restOnFrame();
  expect([inHand(), frameInSight(), isPassing()]).toEqual([9, 9, false]);
});
it('what is pressed while they pass is meant for the one in sight', () => {
  passFrame(11);
  listeners.get('keydown')!();
  expect([inHand(), isPassing()]).toEqual([11, true]);
  passFrame(12);
  listeners.get('pointerdown')!();
  expect(inHand()).toBe(12);
  restOnFrame();
  expect(listeners.size).toBe(0);
});
it('who goes elsewhere meanwhile is there', () => {
  passFrame(20);
  store.dispatch(moved({ frame: 2 }));
  expect(frameInSight()).toBe(2);
  restOnFrame();
  expect(inHand()).toBe(2);
});
it('another shot begins where it begins', () => {
  passFrame(0);
  passFrame(30);
  store.dispatch(moved({ shotId: 's2' }));
  vi.advanceTimersByTime(REST_MS);
  restOnFrame();
  expect([store.getState().where.shotId, inHand()]).toEqual(['s2', 0]);
});
