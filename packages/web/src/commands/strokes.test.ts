import { expect, it } from 'vitest';
import type { ScribbleLayer, Stroke } from '@mellow/contract';
import type { TrackMotion } from '@mellow/core';
import { newScribble } from './layers.ts';
import { carryScribble, cutScribbleAnew, drawStroke, strokesHere } from './strokes.ts';
import { at, documentWith, layersAfter, shape } from './testing.ts';

const stroke = (sign: 'in' | 'out', x: number): Stroke => ({
  sign,
  widthPx: 12,
  points: [
    [x, 1],
    [x, 9],
  ],
});
const scribble = (id: string, more: Partial<ScribbleLayer> = {}): ScribbleLayer => ({
  ...newScribble([], stroke('in', 0)),
  id,
  ...more,
});

it('the first stroke makes a layer', () => {
  const document = documentWith([shape('s')]);
  const { change, layerId } = drawStroke(document, at(0), stroke('in', 5));
  const layers = layersAfter(document, change);
  expect([change.label, layers.length, layers[1]!.id]).toEqual(['Scribble in on a new layer', 2, layerId]);
});
it('more go to the scribble in hand, else to the last that is free', () => {
  const document = documentWith([scribble('a'), scribble('b'), scribble('c', { locked: true })]);
  const goesTo = (layerId: string | null) => drawStroke(document, at(0, { layerId }), stroke('out', 7)).layerId;
  expect([goesTo('a'), goesTo(null), goesTo('c')]).toEqual(['a', 'b', 'b']);
  const [changed] = layersAfter(document, drawStroke(document, at(0, { layerId: 'a' }), stroke('out', 7)).change) as [
    ScribbleLayer,
  ];
  expect(changed.strokes).toEqual([stroke('in', 0), { ...stroke('out', 7), frame: 0 }]);
});

/** A track that moves by 3 px a frame to the right, from frame 10. */
const motions = new Map([
  [
    't',
    {
      referenceFrame: 10,
      quad: [
        [0, 0],
        [100, 0],
        [100, 100],
        [0, 100],
      ],
      known: new Map([[14, { motion: [1, 0, 12, 0, 1, 0, 0, 0, 1], confidence: 1, by: 'track' }]]),
    } as unknown as TrackMotion,
  ],
]);
const follow = { trackId: 't', move: true, turn: true, scale: true, shear: true, perspective: true };
it('a scribble that is carried keeps each stroke on the frame it was drawn on, where it lies there', () => {
  const own = scribble('a', { follow, strokes: [{ ...stroke('in', 0), frame: 14 }, stroke('out', 5)] });
  const document = documentWith([own]);
  const change = carryScribble(document, at(10, { motions }), own);
  expect(change.label).toBe('Carry Scribble 1 through the shot');
  const [carried] = layersAfter(document, change) as [ScribbleLayer];
  expect(carried.follow).toBeUndefined();
  expect(carried.carried).toEqual([]);
  expect(carried.strokes.map((s) => [s.frame, s.points[0]![0]])).toEqual([
    [14, 12],
    [10, 5],
  ]);
  const [anew] = layersAfter(document, cutScribbleAnew(document, at(10), carried)) as [ScribbleLayer];
  expect(anew.carried).toBeUndefined();
  expect(anew.strokes).toEqual(carried.strokes);
});
it('a stroke on a carried scribble belongs to the frame in hand, and is seen there alone', () => {
  const own = scribble('a', { carried: [], strokes: [{ ...stroke('in', 0), frame: 3 }] });
  const document = documentWith([own]);
  const drawn = drawStroke(document, at(8, { motions }), stroke('out', 7)).change;
  const [next] = layersAfter(document, drawn) as [ScribbleLayer];
  expect(next.strokes[1]).toEqual({ ...stroke('out', 7), frame: 8 });
  expect(strokesHere(next, { frame: 3, motions })).toEqual([next.strokes[0]]);
  expect(strokesHere(next, { frame: 5, motions })).toEqual([]);
  // one that is not carried rides on its track
  expect(strokesHere({ strokes: [stroke('in', 1)], follow }, { frame: 14, motions })[0]!.points[0]![0]).toBe(13);
});
