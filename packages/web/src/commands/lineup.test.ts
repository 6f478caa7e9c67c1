import { describe, expect, it } from 'vitest';
import { NEUTRAL_GAIN, NEUTRAL_RECIPE, NEUTRAL_SHIFT } from '@mellow/core';
import type { ProjectDocument, Sighting } from '@mellow/contract';
import { beginsLater, send, setState } from './lineup.ts';
import { changeSighting } from './stack.ts';
import { after, at, documentWith, shape, stored } from './testing.ts';

const follow = { trackId: 't1', at: 0 } as never;
const trim = { gain: { ...NEUTRAL_GAIN, long: 2 }, shift: NEUTRAL_SHIFT };
const light = { how: 'probe' as const, matrix: [1, 0, 0, 0, 1, 0, 0, 0, 0.5] };
const base = documentWith([shape('a', { follow })], {
  trims: { c: trim } as never,
  steadyFrames: 2,
  state: 'approved',
});
const document = {
  ...base,
  shots: base.shots.map((s, i) => (i === 0 ? { ...s, value: { ...s.value, light } } : s)),
} as unknown as ProjectDocument;
const from = document.sightings[0]!.value;
const [bar, street] = document.shots.map((s) => s.value.id);
const to = (what: Parameters<typeof send>[1], d = document) => after(d, send(d, what, from, [bar!, street!], 'c'));
const there = (d: ProjectDocument): Sighting | undefined => d.sightings.find((s) => s.value.shotId === 's2')?.value;

describe('a matte stack sent to another shot', () => {
  it('is there what it is here, rough, without the track, the trim and the light of this shot', () => {
    const change = send(document, 'matte stack', from, [bar!, street!], 'c');
    expect(change.label).toBe('Send the matte stack of Bar to 1 shot');
    const made = there(after(document, change))!;
    expect(made).toMatchObject({
      pieceId: 'cup',
      shotId: 's2',
      steadyFrames: 2,
      trims: {},
      body: null,
      state: 'rough',
    });
    expect(made.layers).toHaveLength(1);
    expect(made.layers[0]).toMatchObject({ name: 'Ellipse a', follow: undefined });
    expect(made.layers[0]!.id).not.toBe('a');
    expect(made.id).not.toBe(from.id);
  });
  it('takes the place of what was there; the trim of that shot stays', () => {
    const own = { ...from, id: 'y', shotId: 's2', layers: [], trims: { c: { ...trim, shift: { hueDeg: 3 } } } };
    const both = { ...document, sightings: stored(from, own as never) };
    const made = there(to('matte stack', both))!;
    expect([made.id, made.layers.length]).toEqual(['y', 1]);
    expect(made.trims).toEqual(own.trims);
  });
});

describe('a trim, a light, keyframes', () => {
  const own = { ...from, id: 'y', shotId: 's2', layers: [], trims: { other: trim } };
  const both = { ...document, sightings: stored(from, own as never) };
  it('of one colourway goes to sightings that are there', () => {
    expect(there(to('trim', both))!.trims).toEqual({ other: trim, c: trim });
    expect(send(document, 'trim', from, [street!], 'c').edits).toEqual([]);
  });
  it('where there is none takes the other’s away', () => {
    const bare = { ...from, trims: {} };
    const change = send(both, 'trim', bare, [street!], 'other');
    expect(there(after(both, change))!.trims).toEqual({});
  });
  it('of the shot goes to the other shots', () =>
    expect(to('light').shots.map((s) => s.value.light)).toEqual([light, light]));
  it('of the recipe take the place of those in the other shots', () => {
    const animated = { s1: { strength: [{ frame: 0, value: 1, ease: 'hold' }] }, s3: { strength: [] } };
    const recipe = { ...NEUTRAL_RECIPE, id: 'r', pieceId: 'cup', colourwayId: 'c', animated };
    const keyed = { ...document, recipes: stored(recipe) } as unknown as ProjectDocument;
    expect(to('keyframes of the recipe', keyed).recipes[0]!.value.animated).toEqual({ ...animated, s2: animated.s1 });
    expect(send(document, 'keyframes of the recipe', from, [street!], 'c').edits).toEqual([]);
  });
});

describe('to a shot that begins later in its footage', () => {
  const key = (frame: number, value: number) => ({ frame, value, ease: 'linear' as const });
  const keyed = {
    ...document,
    media: [{ id: 'm1', frames: 48 }],
    shots: document.shots.map((s, i) => ({
      ...s,
      value: { ...s.value, mediaId: 'm1', span: i === 1 ? { from: 20, to: 40 } : null },
    })),
    sightings: document.sightings.map((s) => ({
      ...s,
      value: {
        ...s.value,
        animated: { 'cleanUp.edgePx': [key(2, 1)] },
        layers: [{ ...s.value.layers[0]!, animated: { strength: [key(3, 0.5)] } }],
      },
    })),
  } as unknown as ProjectDocument;
  const own = keyed.sightings[0]!.value;
  const sent = (at?: 'frame numbers' | 'first frame') =>
    there(after(keyed, send(keyed, 'matte stack', own, [street!], 'c', at)))!;
  it('keyframes keep their numbers, or their place from its first frame', () => {
    expect(sent().animated).toEqual(own.animated);
    expect(sent('first frame').animated).toEqual({ 'cleanUp.edgePx': [key(22, 1)] });
    expect(sent('first frame').layers[0]!.animated).toEqual({ strength: [key(23, 0.5)] });
    expect([beginsLater(keyed, 's2', 's1'), beginsLater(keyed, 's1', 's2')]).toEqual([20, -20]);
  });
  it('clean-up and the keyframes of the recipe too', () => {
    const both = after(keyed, send(keyed, 'matte stack', own, [street!], 'c'));
    const cleaned = there(after(both, send(both, 'clean-up', own, [street!], 'c', 'first frame')))!;
    expect(cleaned.animated).toEqual({ 'cleanUp.edgePx': [key(22, 1)] });
    const animated = { s1: { strength: [key(1, 1)] } };
    const recipe = { ...NEUTRAL_RECIPE, id: 'r', pieceId: 'cup', colourwayId: 'c', animated };
    const withRecipe = { ...keyed, recipes: stored(recipe) } as unknown as ProjectDocument;
    const change = send(withRecipe, 'keyframes of the recipe', own, [street!], 'c', 'first frame');
    expect(after(withRecipe, change).recipes[0]!.value.animated).toEqual({
      ...animated,
      s2: { strength: [key(21, 1)] },
    });
  });
});

describe('a clean-up, a spill, a balance', () => {
  const key = [{ frame: 3, value: 2, ease: 'linear' }];
  const spill = { mode: 'remove', reachPx: 40, amount: 1, tolerance: 0.03, within: { follow: { trackId: 't1' } } };
  const cleaned = {
    ...from,
    cleanUp: { quietPx: 3 },
    spill,
    animated: { 'cleanUp.quietPx': key, 'spill.amount': key },
  };
  const own = { ...from, id: 'y', shotId: 's2', steadyFrames: 0, animated: { 'spill.reachPx': key } };
  const both = { ...document, sightings: stored(cleaned as never, own as never) } as ProjectDocument;
  const sent = (what: 'clean-up' | 'spill') =>
    there(after(both, send(both, what, cleaned as never, [street!], 'c'))) as unknown as typeof cleaned;
  it('of a sighting goes with its keyframes to those that are there, and leaves all else of them', () => {
    expect(sent('clean-up')).toMatchObject({ id: 'y', cleanUp: { quietPx: 3 }, steadyFrames: 2, spill: null });
    expect(Object.keys(sent('clean-up').animated).sort()).toEqual(['cleanUp.quietPx', 'spill.reachPx']);
    expect(sent('spill')).toMatchObject({ cleanUp: null, steadyFrames: 0, layers: own.layers });
    // keyframes of the other's spill go with it; what followed a track of this shot follows none there
    expect(Object.keys(sent('spill').animated)).toEqual(['spill.amount']);
    expect(sent('spill').spill.within.follow).toBeUndefined();
    expect(send(document, 'spill', from, [street!], 'c').edits).toEqual([]);
  });
  it('of a shot goes to the other shots', () => {
    const balance = { exposureStops: 0.5 };
    const shots = document.shots.map((s, i) => (i === 0 ? { ...s, value: { ...s.value, balance } } : s));
    const balanced = { ...document, shots } as unknown as ProjectDocument;
    expect(to('balance', balanced).shots.map((s) => s.value.balance)).toEqual([balance, balance]);
  });
});

describe('how far a sighting is', () => {
  it('is what the colorist says', () => {
    const change = setState(from, 'ready', 'Cup in Bar');
    expect([change.label, after(document, change).sightings[0]!.value.state]).toEqual(['Cup in Bar: ready', 'ready']);
  });
  it('an approval is lost when the matte changes, and nothing else is', () => {
    const next = after(document, changeSighting(document, at(0), 'x', { layers: [] }));
    expect(next.sightings[0]!.value.state).toBe('ready');
    const rough = documentWith([shape('a')], { state: 'rough' });
    expect(after(rough, changeSighting(rough, at(0), 'x', { layers: [] })).sightings[0]!.value.state).toBe('rough');
  });
});
