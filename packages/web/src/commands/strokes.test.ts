import { expect, it } from 'vitest';
import type { ScribbleLayer, Stroke } from '@mellow/contract';
import { newScribble } from './layers.ts';
import { drawStroke } from './strokes.ts';
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
  expect(changed.strokes).toEqual([stroke('in', 0), stroke('out', 7)]);
});
