import { labFromLinear709, linear709FromLab, NEUTRAL_RECIPE } from '@mellow/core';
import { describe, expect, it } from 'vitest';
import { documentWith, shape, stored } from '../commands/testing.ts';
import { isolatedIn, matchTask, scenesOf, spreadFrames } from './matching.ts';

const trim = { gain: { long: 2, middle: 1, short: 1 }, shift: NEUTRAL_RECIPE.shift };
const light = { how: 'hand' as const, matrix: [0.5, 0, 0, 0, 0.5, 0, 0, 0, 0.5] as never };
const plain = documentWith([shape('a')], { trims: { c: trim } as never });
const document = {
  ...plain,
  media: [{ id: 'm', width: 64, height: 32, frames: 20 }],
  proxies: { m: { state: 'done' } },
} as unknown as typeof plain;
const known = { document, colourwayId: 'c' as never, motionsOf: () => new Map() };
const [bar] = document.shots.map((s) => s.value);
const requirement = { lab: { L: 60, a: 20, b: 30 }, illuminant: 'D65' } as never;
const sighting = document.sightings[0]!.value;

it('frames that stand for a shot are spread evenly, the ends half a step away; all of a short one', () => {
  expect(spreadFrames(48)).toEqual([3, 10, 17, 24, 30, 37, 44]);
  expect(spreadFrames(3)).toEqual([0, 1, 2]);
  expect(spreadFrames(100, 2)).toEqual([25, 75]);
});

describe('what is asked of the engine', () => {
  it('are the frames of the shot, for the piece; none without proxies', () => {
    expect(scenesOf(known, bar!, 'cup').map((s) => [s.index, s.sightings.length])).toEqual(Array(7).fill([0, 1]));
    const waiting = { ...known, document: { ...document, proxies: {} } as never };
    expect(scenesOf(waiting, bar!, 'cup')).toEqual([]);
  });
  it('is the required colour as it should be seen in the shot’s own light', () => {
    const task = matchTask(known, { shot: { ...bar!, light }, sighting, requirement, way: 'gain' });
    const dimmed = linear709FromLab({ L: 60, a: 20, b: 30 }).map((v) => v / 2) as never;
    const wanted = labFromLinear709(dimmed);
    expect([task.wanted.L, task.wanted.a]).toEqual([expect.closeTo(wanted.L, 6), expect.closeTo(wanted.a, 6)]);
    expect([task.light, task.carried.hue]).toEqual([light.matrix, true]);
  });
  it('takes the recipe as it is, and the shot’s trim with it: what is said to be reached is what is shown', () => {
    const recipe = { ...NEUTRAL_RECIPE, strength: 0.5, pieceId: 'cup', colourwayId: 'c', animated: {} };
    const withRecipe = { ...known, document: { ...document, recipes: stored(recipe) } as never };
    const asked = (way: 'gain' | 'trim') => matchTask(withRecipe, { shot: bar!, sighting, requirement, way });
    expect(asked('gain')).toMatchObject({ recipe: { strength: 0.5 } });
    expect([asked('gain').trim, asked('trim').trim]).toEqual([trim, trim]);
  });
});

it('a sighting without a layer is not isolated', () => {
  expect(isolatedIn(document, 'cup', 's1')?.id).toBe('x');
  expect(isolatedIn(documentWith([]), 'cup', 's1')).toBeUndefined();
  expect(isolatedIn(document, 'cup', 's2')).toBeUndefined();
});
