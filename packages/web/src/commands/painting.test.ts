import { describe, expect, it } from 'vitest';
import type { BrushLayer, BrushStroke } from '@mellow/contract';
import { STILL, type Motions } from '@mellow/core';
import { newBrush } from './layers.ts';
import { frameOfStroke, paint, type Brush, type Passage, type PaintSign } from './painting.ts';
import { at, documentWith, layersAfter, shape } from './testing.ts';

const BRUSH: Brush = { widthPx: 20, softness: 0.4, flow: 0.8, on: 'all frames', run: { from: 9, to: 4 } };
const PASSAGE: Passage = [
  [3, 4, 1],
  [9, 4, 0.5],
];
const stroke = (sign: BrushStroke['sign']): BrushStroke => ({
  sign,
  widthPx: 20,
  softness: 0.4,
  flow: 0.8,
  points: PASSAGE,
});
const brush = (id: string, mode: 'add' | 'without' = 'add', more: Partial<BrushLayer> = {}): BrushLayer => ({
  ...newBrush([], stroke('in')),
  id,
  mode,
  ...more,
});
const painted = (layers: Parameters<typeof documentWith>[0], sign: PaintSign, layerId: string | null = null) => {
  const document = documentWith(layers);
  const { change, layerId: id } = paint(document, at(7, { layerId }), BRUSH, sign, PASSAGE, 47);
  const now = layersAfter(document, change);
  return { label: change.label, now, layer: now.find((l) => l.id === id) as BrushLayer };
};

describe('what is painted', () => {
  it('first makes a layer at the end of the stack that adds', () => {
    const out = painted([shape('s')], 'out');
    expect([out.label, out.now.length, out.now[1]]).toEqual(['Paint out on a new layer', 2, out.layer]);
    expect([out.layer.mode, out.layer.strokes]).toEqual(['add', [stroke('out')]]);
  });
  it('goes on the layer in hand, or on the last that adds and is free', () => {
    const layers = [brush('a'), brush('c'), brush('b', 'without'), brush('d', 'add', { locked: true })];
    const goesTo = (id: string | null) => painted(layers, 'out', id).layer.id;
    expect([goesTo('a'), goesTo(null), goesTo('b'), goesTo('d')]).toEqual(['a', 'c', 'b', 'c']);
  });
  it('is what one sees: less selected is more of a layer that takes away', () => {
    const last = (sign: PaintSign) => painted([brush('b', 'without')], sign, 'b').layer.strokes.at(-1)!.sign;
    expect([last('in'), last('out'), last('smooth')]).toEqual(['out', 'in', 'smooth']);
    expect(painted([brush('a')], 'out', 'a').layer.strokes.at(-1)).toEqual(stroke('out'));
  });
});

it('is there on the frames one chose', () => {
  const span = (on: Brush['on']) => {
    const document = documentWith([]);
    const { change } = paint(document, at(7), { ...BRUSH, on }, 'in', PASSAGE, 47);
    return (layersAfter(document, change)[0] as BrushLayer).strokes[0]!.span;
  };
  expect([span('all frames'), span('this frame'), span('from here on'), span('a run')]).toEqual([
    undefined,
    { from: 7, to: 7 },
    { from: 7, to: 47 },
    { from: 4, to: 9 },
  ]);
});

it('lies in the track’s own frame where the layer follows one', () => {
  const follow = { trackId: 't', move: true, turn: true, scale: true, shear: true, perspective: true };
  const motion = [1, 0, 5, 0, 1, -2, 0, 0, 1] as unknown as typeof STILL;
  const quad = [
    [0, 0],
    [10, 0],
    [10, 10],
    [0, 10],
  ] as [[number, number], [number, number], [number, number], [number, number]];
  const known = new Map([[7, { motion, confidence: 1, by: 'track' as const }]]);
  const motions: Motions = new Map([['t', { referenceFrame: 0, quad, known }]]);
  const document = documentWith([brush('a', 'add', { follow, strokes: [] })]);
  const { change } = paint(document, at(7, { layerId: 'a', motions }), BRUSH, 'in', PASSAGE, 47);
  const [layer] = layersAfter(document, change) as [BrushLayer];
  expect(layer.strokes[0]!.points).toEqual([
    [expect.closeTo(-2, 9), expect.closeTo(6, 9), 1],
    [expect.closeTo(4, 9), expect.closeTo(6, 9), 0.5],
  ]);
});

it('is carried as it lies on a frame that it is there on', () => {
  const span = { from: 4, to: 9 };
  expect([2, 6, 30].map((frame) => frameOfStroke({ span }, frame))).toEqual([4, 6, 9]);
  expect(frameOfStroke({}, 30)).toBe(30);
});

it('is kept to a hundredth of a pixel and a thousandth of the pressure', () => {
  const document = documentWith([]);
  const { change } = paint(document, at(7), BRUSH, 'in', [[3.14159, 2.71828, 0.57721]], 47);
  expect((layersAfter(document, change)[0] as BrushLayer).strokes[0]!.points).toEqual([[3.14, 2.72, 0.577]]);
});
