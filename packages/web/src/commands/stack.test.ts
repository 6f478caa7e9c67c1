import { describe, expect, it } from 'vitest';
import type { ShapeLayer } from '@mellow/contract';
import { NO_CLEAN_UP, NO_SPILL } from '@mellow/core';
import * as stack from './stack.ts';
import { after, at, documentWith, layersAfter, shape } from './testing.ts';

describe('a sighting', () => {
  it('is made with its first layer', () => {
    const document = documentWith(undefined);
    const change = stack.addLayer(document, at(0), 'Draw', shape('a'));
    expect(change.label).toBe('Draw');
    expect(after(document, change).sightings.map((s) => s.value)).toEqual([
      {
        id: expect.stringMatching(/^[0-9a-f-]{36}$/),
        projectId: 'p',
        pieceId: 'cup',
        shotId: 's1',
        layers: [shape('a')],
        cleanUp: null,
        spill: null,
        animated: {},
        steadyFrames: 0,
        trims: {},
        body: null,
        state: 'rough',
      },
    ]);
  });
  it('keeps its id and everything that is not changed', () => {
    const document = documentWith([shape('a')], { steadyFrames: 2 });
    const [edit] = stack.changeSighting(document, at(0), 'Steady', { cleanUp: NO_CLEAN_UP }).edits;
    expect(edit).toMatchObject({
      kind: 'sighting',
      id: 'x',
      value: { steadyFrames: 2, layers: [{ id: 'a' }], cleanUp: NO_CLEAN_UP },
    });
  });
  it('is not made without a piece or a shot in hand', () => {
    const document = documentWith([]);
    expect(stack.addLayer(document, at(0, { pieceId: undefined }), 'Draw', shape('a')).edits).toEqual([]);
    expect(stack.addLayer(document, at(0, { shotId: undefined }), 'Draw', shape('a')).edits).toEqual([]);
  });
  it('of another shot is left alone', () => {
    const document = documentWith([shape('a')]);
    const next = after(document, stack.addLayer(document, at(0, { shotId: 's2' as never }), 'Draw', shape('b')));
    expect(next.sightings.map((s) => [s.value.shotId, s.value.layers.length])).toEqual([
      ['s1', 1],
      ['s2', 1],
    ]);
  });
});

describe('an edit of a layer as it is shown on a frame', () => {
  const animated = shape('a', {
    animated: {
      strength: [
        { frame: 0, value: 0.2, ease: 'linear' },
        { frame: 10, value: 0.8, ease: 'linear' },
      ],
    },
  });
  it('goes to a keyframe on this frame where the number has keyframes, and leaves the number itself', () => {
    const document = documentWith([animated, shape('b')]);
    const [changed, other] = layersAfter(
      document,
      stack.editLayer(document, at(5), 'Strength', { ...animated, strength: 0.9 }),
    );
    expect(changed!.animated!.strength!.map((k) => [k.frame, k.value])).toEqual([
      [0, 0.2],
      [5, 0.9],
      [10, 0.8],
    ]);
    expect(changed!.strength).toBe(animated.strength);
    expect(other).toEqual(shape('b'));
  });
  it('goes everywhere alike when asked to', () => {
    const document = documentWith([animated]);
    const place = at(5, { everywhere: true });
    const [changed] = layersAfter(
      document,
      stack.editLayer(document, place, 'Strength', { ...animated, strength: 0.6 }),
    );
    expect(changed!.animated!.strength!.map((k) => k.value)).toEqual([expect.closeTo(0.3, 9), expect.closeTo(0.9, 9)]);
  });
  it('of a path goes to a keyframe of the path; its other numbers stay as they are stored', () => {
    const wide = { ...shape('a').geometry, width: 80 } as ShapeLayer['geometry'];
    const moving = shape('a', {
      paths: [
        { frame: 0, value: shape('a').geometry, ease: 'linear' },
        { frame: 10, value: wide, ease: 'linear' },
      ],
    });
    const document = documentWith([moving]);
    const narrow = { ...moving.geometry, width: 10 } as ShapeLayer['geometry'];
    const [changed] = layersAfter(
      document,
      stack.editLayer(document, at(5), 'Path', { ...moving, geometry: narrow }),
    ) as [ShapeLayer];
    expect(changed.paths!.map((k) => [k.frame, (k.value as { width: number }).width])).toEqual([
      [0, 40],
      [5, 10],
      [10, 80],
    ]);
    expect(changed.geometry).toEqual(moving.geometry);
  });
  it('of a feather does not store the shape as it is shown on that frame', () => {
    const moving = shape('a', {
      paths: [
        { frame: 0, value: { ...shape('a').geometry, cx: 0 } as never, ease: 'linear' },
        { frame: 10, value: { ...shape('a').geometry, cx: 200 } as never, ease: 'linear' },
      ],
    });
    const document = documentWith([moving]);
    const shown = { ...moving, geometry: { ...moving.geometry, cx: 100 } as ShapeLayer['geometry'] };
    const edited = { ...shown, feather: { ...shown.feather, outerPx: 9 } };
    const [changed] = layersAfter(document, stack.editLayer(document, at(5), 'Feather', edited)) as [ShapeLayer];
    expect(changed).toEqual({ ...moving, feather: edited.feather });
  });
  it('puts a layer in as it is given when that is what is meant', () => {
    const document = documentWith([animated]);
    const [changed] = layersAfter(
      document,
      stack.putLayer(document, at(5), 'Put', { ...animated, animated: undefined, strength: 0.4 }),
    );
    expect(changed).toEqual({ ...animated, animated: undefined, strength: 0.4 });
    const two = documentWith([shape('a'), shape('b')]);
    const put = stack.putLayer(two, at(5), 'Put', { ...shape('b'), strength: 0.4 });
    expect(layersAfter(two, put)).toEqual([shape('a'), { ...shape('b'), strength: 0.4 }]);
  });
});

describe('clean-up and spill', () => {
  it('change where they have keyframes, and are replaced where they have none', () => {
    const cleanUp = { ...NO_CLEAN_UP, edgePx: 1 };
    const keyframes = { 'cleanUp.edgePx': [{ frame: 0, value: 1, ease: 'linear' as const }] };
    const document = documentWith([], { cleanUp, animated: keyframes });
    const change = stack.changeWhole(document, at(8), 'Edge', { cleanUp: { ...cleanUp, edgePx: 4, softenPx: 2 } });
    const { value } = after(document, change).sightings[0]!;
    expect(value.animated['cleanUp.edgePx']!.map((k) => [k.frame, k.value])).toEqual([
      [0, 1],
      [8, 4],
    ]);
    expect(value.cleanUp).toMatchObject({ edgePx: 1, softenPx: 2 });
  });
  it('change alone: the other stays as it is stored', () => {
    const keyframes = { 'spill.amount': [{ frame: 0, value: 1, ease: 'linear' as const }] };
    const document = documentWith([], { cleanUp: NO_CLEAN_UP, spill: NO_SPILL, animated: keyframes });
    const changed = stack.foldedWhole(document, at(8), { spill: { ...NO_SPILL, amount: 0.25, reachPx: 9 } });
    expect(Object.keys(changed).sort()).toEqual(['animated', 'spill']);
    expect(changed.spill).toMatchObject({ amount: NO_SPILL.amount, reachPx: 9 });
    expect(changed.animated!['spill.amount']!.map((k) => k.frame)).toEqual([0, 8]);
    const cleaned = stack.foldedWhole(document, at(8), { cleanUp: { ...NO_CLEAN_UP, edgePx: 2 } });
    expect([Object.keys(cleaned).sort(), cleaned.animated]).toEqual([['animated', 'cleanUp'], keyframes]);
  });
  it('of a piece that is not isolated yet are as they are set', () => {
    const spill = { ...NO_SPILL, mode: 'remove' as const };
    expect(stack.foldedWhole(documentWith(undefined), at(0), { spill })).toEqual({ spill });
  });
});

describe('a draft', () => {
  it('is of what the hand moves and of nothing else', () => {
    const document = documentWith([shape('a')]);
    const layers = stack.withEditedLayer(document, at(0), { ...shape('a'), strength: 0.3 });
    expect(stack.sightingDraft(document, at(0), { layers })).toEqual({ sighting: { sightingId: 'x', layers } });
    expect(stack.sightingDraft(documentWith(undefined), at(0), { layers })).toBeUndefined();
    for (const part of [{ cleanUp: NO_CLEAN_UP }, { spill: NO_SPILL }, { animated: {} }, {}])
      expect(stack.sightingDraft(document, at(0), part)).toStrictEqual({ sighting: { sightingId: 'x', ...part } });
  });
});
