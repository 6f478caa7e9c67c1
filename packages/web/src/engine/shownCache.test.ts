import { expect, it } from 'vitest';
import type { AnswerOf, ShowTask } from './frameProtocol.ts';
import { ShownCache } from './shownCache.ts';

const frame = (bytes: number, mark = 0): AnswerOf['show'] => ({
  picture: { rgba: new Uint8ClampedArray(bytes).fill(mark), width: 1, height: bytes / 4 },
  source: undefined,
  measured: undefined,
  scope: undefined,
});

it('stays within its bytes and forgets what was used longest ago', () => {
  const cache = new ShownCache(100);
  cache.set('a', frame(40));
  cache.set('b', frame(40));
  cache.get('a');
  cache.set('c', frame(40));
  expect([cache.get('a'), cache.get('b'), cache.get('c')].map(Boolean)).toEqual([true, false, true]);
  expect(cache.bytes).toBe(80);
});

it('does not keep what is larger than its bound, nor lets go of others for it', () => {
  const cache = new ShownCache(50);
  cache.set('a', frame(40));
  cache.set('b', frame(60));
  expect([cache.has('a'), cache.has('b'), cache.bytes]).toEqual([true, false, 40]);
});

it('counts a frame computed again once', () => {
  const cache = new ShownCache(100);
  cache.set('a', frame(40, 1));
  cache.set('a', frame(20, 2));
  expect(cache.bytes).toBe(20);
  expect(cache.get('a')!.picture.rgba[0]).toBe(2);
});

it('has another key for anything a picture depends on', () => {
  const task = {
    kind: 'show',
    frame: { url: 'f', encoding: 'rec709', fullWidth: 1, plates: {} },
    sightings: [],
    index: -1,
    show: 'Result',
    tint: 0.6,
    ground: 'grey',
    measure: false,
    withSource: false,
  } as unknown as ShowTask;
  const keys = [
    task,
    { ...task, tint: 0.5 },
    { ...task, show: 'Matte' as const },
    { ...task, frame: { ...task.frame, url: 'g' } },
  ].map(ShownCache.keyOf);
  expect(new Set(keys).size).toBe(4);
});
