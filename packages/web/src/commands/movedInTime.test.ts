import { expect, it } from 'vitest';
import type { Layer } from '@mellow/contract';
import { keysLater, layerLater } from './movedInTime.ts';
import { shape } from './testing.ts';

const key = (frame: number, value: number) => ({ frame, value, ease: 'linear' as const });

it('keyframes move; the last of those before frame 0 holds there, unless one stands on it', () => {
  const keys = [key(2, 1), key(5, 2), key(9, 3)];
  expect(keysLater(keys, 4)).toEqual([key(6, 1), key(9, 2), key(13, 3)]);
  expect(keysLater(keys, -6)).toEqual([key(0, 2), key(3, 3)]);
  expect(keysLater(keys, -5)).toEqual([key(0, 2), key(4, 3)]);
  expect(keysLater(keys, -20)).toEqual([key(0, 3)]);
  expect(keysLater([], -3)).toEqual([]);
});
it('a layer moves with its path, its span and what is in it; a plate shows what it showed', () => {
  const { geometry, ...rest } = shape('a');
  const own = { ...rest, geometry, span: { from: 1, to: 7 }, paths: [{ frame: 4, value: geometry, ease: 'hold' }] };
  const moved = layerLater(own as Layer, 10);
  expect(moved).toMatchObject({ span: { from: 11, to: 17 }, paths: [{ frame: 14, ease: 'hold' }], geometry });
  const plate = { ...rest, kind: 'plate', mediaId: 'm', channel: 'luma', offsetFrames: 3 } as unknown as Layer;
  expect(layerLater(plate, 10)).toMatchObject({ offsetFrames: -7 });
  const strokes = [{ sign: 'in', span: { from: 2, to: 4 } }, { sign: 'out' }];
  const brush = { ...rest, kind: 'brush', strokes } as unknown as Layer;
  expect(layerLater(brush, -3)).toMatchObject({ strokes: [{ span: { from: 0, to: 1 } }, { sign: 'out' }] });
  const group = { ...rest, kind: 'group', layers: [own] } as unknown as Layer;
  expect(layerLater(group, -2)).toMatchObject({ layers: [{ span: { from: 0, to: 5 }, paths: [{ frame: 2 }] }] });
  expect(layerLater(plate, 0)).toBe(plate);
});
