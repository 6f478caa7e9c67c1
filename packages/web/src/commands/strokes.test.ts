import { expect, it } from 'vitest';
import type { ScribbleLayer, Stroke } from '@mellow/contract';
import type { TrackMotion } from '@mellow/core';
import { newScribble } from './layers.ts';
import {
  askedToHold,
  carryScribble,
  changeStroke,
  cutScribbleAnew,
  drawnOn,
  drawnDraft,
  drawStroke,
  type Drawn,
  grown,
  hasLooks,
  REACH,
  strokeFollows,
  strokesHere,
  withHolding,
} from './strokes.ts';
import { editLayer } from './stack.ts';
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

const drawn = (sign: 'in' | 'out', x: number): Drawn => ({ stroke: stroke(sign, x), newId: 'made' });

it('a stroke that is drawn anew knows no more what it lay on elsewhere', () => {
  const before: Stroke = { ...stroke('in', 3), frame: 2, looks: [{ L: 0.5, a: 0.1, b: 0 }] };
  expect(drawnOn(before, 7)).toEqual({ ...stroke('in', 3), frame: 7 });
  const signs = ['in', 'out', 'unsure', 'around'] as const;
  expect(signs.filter((sign) => hasLooks({ ...before, sign }))).toEqual(['in', 'out']);
});
it('the first stroke makes a layer', () => {
  const document = documentWith([shape('s')]);
  const { change, layerId } = drawStroke(document, at(0), drawn('in', 5));
  const layers = layersAfter(document, change);
  expect([change.label, layers.length]).toEqual(['Scribble in on a new layer', 2]);
  expect([layers[1]!.id, layerId]).toEqual(['made', 'made']);
});
it('more go to the scribble in hand, else to the last that is free', () => {
  const document = documentWith([scribble('a'), scribble('b'), scribble('c', { locked: true })]);
  const goesTo = (layerId: string | null) => drawStroke(document, at(0, { layerId }), drawn('out', 7)).layerId;
  expect([goesTo('a'), goesTo(null), goesTo('c')]).toEqual(['a', 'b', 'b']);
  const [changed] = layersAfter(document, drawStroke(document, at(0, { layerId: 'a' }), drawn('out', 7)).change) as [
    ScribbleLayer,
  ];
  expect(changed.strokes).toEqual([stroke('in', 0), { ...stroke('out', 7), frame: 0 }]);
});
it('strokes that are not yet edits are shown in their order, the first of them in a layer of its own', () => {
  const document = documentWith([shape('s')]);
  const draft = drawnDraft(document, at(4), [drawn('in', 5), { ...drawn('out', 7), newId: 'another' }]);
  const [, made] = draft!.sighting!.layers as [unknown, ScribbleLayer];
  expect(made.id).toBe('made');
  expect(made.strokes.map(({ sign, frame }) => [sign, frame])).toEqual([
    ['in', 4],
    ['out', 4],
  ]);
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
  const drawnThere = drawStroke(document, at(8, { motions }), drawn('out', 7)).change;
  const [next] = layersAfter(document, drawnThere) as [ScribbleLayer];
  expect(next.strokes[1]).toEqual({ ...stroke('out', 7), frame: 8 });
  expect(strokesHere(next, { frame: 3, motions })).toEqual([{ at: 0, stroke: next.strokes[0] }]);
  expect(strokesHere(next, { frame: 5, motions })).toEqual([]);
  // one that is not carried rides on its track
  expect(strokesHere({ strokes: [stroke('in', 1)], follow }, { frame: 14, motions })[0]!.stroke.points[0]![0]).toBe(13);
});

const xOf = (s: Stroke) => s.points[0]![0];
it('a stroke is changed where it lies on this frame, and stored where it rides from', () => {
  const own = scribble('a', { follow, strokes: [stroke('in', 0), stroke('out', 50)] });
  const document = documentWith([own]);
  const place = at(14, { motions });
  const [first] = strokesHere(own, place);
  expect(xOf(first!.stroke)).toBe(12);
  const points = first!.stroke.points.map(([x, y]): [number, number] => [x + 5, y]);
  const moved: Stroke = { ...first!.stroke, widthPx: 20, points };
  const change = changeStroke(document, place, 'a', 0, moved, 'Move a stroke');
  expect(change.label).toBe('Move a stroke of Scribble 1');
  const [next] = layersAfter(document, change) as [ScribbleLayer];
  expect(next.strokes).toEqual([{ ...stroke('in', 5), widthPx: 20 }, stroke('out', 50)]);
  const [less] = layersAfter(document, changeStroke(document, place, 'a', 0, undefined, 'Remove a stroke')) as [
    ScribbleLayer,
  ];
  expect(less.strokes).toEqual([stroke('out', 50)]);
});
it('no stroke of a locked scribble is changed, nor one that is not there', () => {
  const document = documentWith([scribble('a', { locked: true }), scribble('b')]);
  for (const [id, nth] of [
    ['a', 0],
    ['b', 4],
  ] as const)
    expect(
      layersAfter(document, changeStroke(document, at(0), id, nth, undefined, 'Remove a stroke')).map(
        (l) => (l as ScribbleLayer).strokes.length,
      ),
    ).toEqual([1, 1]);
});
it('a stroke that stands, or rides on a track of its own, stays where it is on this frame and goes its way', () => {
  const own = scribble('a', { follow });
  const place = at(14, { motions });
  const after = (next: Stroke['follow'], frame: number, from = own) => {
    const document = documentWith([from]);
    const here = strokesHere(from, place)[0]!.stroke;
    const change = changeStroke(document, place, 'a', 0, strokeFollows(here, next), 'Another track for a stroke');
    const [layer] = layersAfter(document, change) as [ScribbleLayer];
    return xOf(strokesHere(layer, { frame, motions })[0]!.stroke);
  };
  expect([after(null, 14), after(null, 10)]).toEqual([12, 12]);
  expect([after(undefined, 14), after(undefined, 10)]).toEqual([12, 0]);
  const still = { ...own, follow: undefined };
  expect([after(follow as never, 14, still), after(follow as never, 10, still)]).toEqual([0, -12]);
});
it('carried, each stroke is put where its own track has it', () => {
  const own = scribble('a', { follow, strokes: [{ ...stroke('in', 0), frame: 14, follow: null }] });
  const [carried] = layersAfter(documentWith([own]), carryScribble(documentWith([own]), at(10, { motions }), own)) as [
    ScribbleLayer,
  ];
  expect(carried.strokes).toEqual([{ ...stroke('in', 0), frame: 14 }]);
});
it('the last stroke that grows does, between the least and the most', () => {
  const here = [0.1, undefined, 0.2].map((reach, k) => ({ at: k, stroke: { ...stroke('in', k), reach } }));
  expect(grown(here, 1.5)).toEqual({ at: 2, stroke: { ...stroke('in', 2), reach: expect.closeTo(0.3) } });
  expect(grown(here, 1000)!.stroke.reach).toBe(REACH.most);
  expect(grown(here, 0)!.stroke.reach).toBe(REACH.least);
  expect(grown([here[1]!], 2)).toBeUndefined();
});
it('the edge of a scribble is made hard, soft by hand, and as the picture again', () => {
  const softOf = (before: number | undefined, next: number | undefined) => {
    const own = scribble('a', before === undefined ? {} : { softPx: before });
    const { softPx: _before, ...rest } = own;
    const edited = next === undefined ? rest : { ...rest, softPx: next };
    const [layer] = layersAfter(documentWith([own]), editLayer(documentWith([own]), at(0), 'Soft edge', edited)) as [
      ScribbleLayer,
    ];
    return layer.softPx;
  };
  expect([softOf(undefined, 0), softOf(0, 4), softOf(4, undefined)]).toEqual([0, 4, undefined]);
});

it('it is asked which strokes hold where any knows what it lay on and was drawn on another frame', () => {
  const knowing: Stroke = { ...stroke('in', 3), frame: 2, looks: [{ L: 0.5, a: 0.1, b: 0 }] };
  const here = [
    { at: 0, stroke: stroke('out', 1) },
    { at: 1, stroke: knowing },
  ];
  expect(askedToHold(here, 7)).toEqual([stroke('out', 1), knowing]);
  expect(askedToHold(here, 2)).toBeUndefined();
  expect(askedToHold(here.slice(0, 1), 7)).toBeUndefined();
});
it('strokes that hold as a whole, and those that have moved since it was asked, are shown as they are', () => {
  const here = [
    { at: 0, stroke: stroke('out', 1) },
    { at: 1, stroke: stroke('in', 3) },
  ];
  const asked = here.map((each) => each.stroke);
  expect(withHolding(here, [], [])).toEqual(here);
  const part: Stroke['points'] = [
    [3, 1],
    [3, 4],
  ];
  expect(withHolding(here, asked, [null, [part]])).toEqual([here[0], { ...here[1], holds: [part] }]);
  expect(withHolding(here, asked, [[], null])[0]!.holds).toEqual([]);
  expect(withHolding(here, [stroke('out', 2), asked[1]!], [[], [part]])).toEqual([
    here[0],
    { ...here[1], holds: [part] },
  ]);
});
