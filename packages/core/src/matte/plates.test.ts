import type { Layer, PlateLayer, SingleLayer } from '../document/layer.ts';
import { expect, it } from 'vitest';
import { PLAIN_LAYER } from '../testing/layers.ts';
import { plateId, platesOf } from './plates.ts';

const plate = (id: string, mediaId: string | null): PlateLayer => ({
  ...PLAIN_LAYER,
  id,
  kind: 'plate',
  mediaId,
  channel: 'luma',
  offsetFrames: 2,
});
const group = (layers: SingleLayer[]): Layer => ({ ...PLAIN_LAYER, id: 'g', kind: 'group', layers });
const scribble: SingleLayer = { ...PLAIN_LAYER, id: 's', kind: 'scribble', strokes: [] };

it('the plates of a stack are those that read a medium, in groups too, in order', () => {
  const [a, b, c] = [plate('a', 'm1'), plate('b', 'm2'), plate('c', null)];
  expect(platesOf([scribble, group([a, scribble, c]), b])).toEqual([a, b]);
  expect(platesOf([scribble, c])).toEqual([]);
});
it('plates of one medium, channel and offset read the same frames', () => {
  expect(plateId(plate('a', 'm1'))).toBe(plateId(plate('b', 'm1')));
  const own = plate('a', 'm1');
  for (const other of [{ mediaId: 'm2' }, { channel: 'alpha' as const }, { offsetFrames: 3 }])
    expect(plateId({ ...own, ...other })).not.toBe(plateId(own));
});
