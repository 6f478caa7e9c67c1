import { describe, expect, it } from 'vitest';
import { NEUTRAL_RECIPE, sightingAt } from '@mellow/core';
import type { ProjectDocument, Recipe } from '@mellow/contract';
import {
  dropStill,
  dropVersion,
  keepStill,
  keepVersion,
  takeFromStill,
  takeVersion,
  versionsOf,
  withVersion,
} from './judging.ts';
import { changeRecipe } from './recipe.ts';
import { after, at, documentWith, shape, stored } from './testing.ts';

const keys = [
  { frame: 0, value: 0, ease: 'linear' as const },
  { frame: 10, value: 50, ease: 'linear' as const },
];
const recipe = {
  ...NEUTRAL_RECIPE,
  id: 'r',
  projectId: 'p',
  pieceId: 'cup',
  colourwayId: 'c',
  animated: { s1: { 'shift.hueDeg': keys } },
};
const moving = shape('a', { animated: { strength: [{ frame: 0, value: 0.5, ease: 'hold' }] } });
const document = { ...documentWith([moving]), recipes: stored(recipe) } as unknown as ProjectDocument;
const recipeOf = (d: ProjectDocument) => d.recipes[0]!.value as Omit<Recipe, 'animated'> & { animated: object };

describe('a still', () => {
  const kept = after(document, keepStill(document, at(4), ''));
  const [still] = kept.stills.map((s) => s.value);
  it('is named by its place where no name is given, and keeps frame, colourway and encoding', () =>
    expect(still).toMatchObject({
      name: 'Bar, frame 4',
      shotId: 's1',
      frame: 4,
      colourwayId: 'c',
      encoding: 'rec709',
    }));
  it('holds the recolour and the matte as they are on its frame, without keyframes', () => {
    const [render] = still!.renders;
    expect(render!.shift.hueDeg).toBeCloseTo(20, 9);
    expect(render!.layers[0]!.strength).toBe(0.5);
    expect([render!.animated, render!.layers[0]!.animated, render!.pieceId]).toEqual([undefined, undefined, 'cup']);
  });
  it('is rendered as the frame was', () => {
    const [render] = still!.renders;
    const now = sightingAt({ ...NEUTRAL_RECIPE, layers: [moving], animated: { 'shift.hueDeg': keys } }, 4, new Map());
    const then = sightingAt(render!, 4, new Map());
    expect(then.program).toEqual(now.program);
    expect(then.layers).toEqual(now.layers);
  });
  it('stays as it was when the recipe changes, and gives its recipe back', () => {
    const changed = after(kept, changeRecipe(kept, at(4), 'x', { strength: 0.2 }));
    expect(changed.stills[0]!.value.renders[0]!.strength).toBe(1);
    const back = recipeOf(after(changed, takeFromStill(changed, at(4), changed.stills[0]!.value)));
    expect([back.strength, back.shift.hueDeg]).toEqual([1, expect.closeTo(20, 9)]);
    expect(back.animated).toEqual({});
  });
  it('gives nothing to a piece that was not on it', () =>
    expect(takeFromStill(kept, at(4, { pieceId: 'other' as never }), still!).edits).toEqual([]));
  it('goes', () => expect(after(kept, dropStill(still!)).stills).toEqual([]));
});

describe('a version', () => {
  const kept = after(document, keepVersion(document, at(0), ' Second thoughts '));
  const [version] = versionsOf(kept, at(0));
  it('keeps the recipe with its keyframes under a name', () => {
    expect(version).toMatchObject({ name: 'Second thoughts', pieceId: 'cup', colourwayId: 'c' });
    expect(version!.numbers).toEqual(NEUTRAL_RECIPE);
    expect(version!.animated).toEqual(recipe.animated);
    const next = after(kept, keepVersion(kept, at(0), ''));
    expect(versionsOf(next, at(0)).map((v) => v.name)).toEqual(['Second thoughts', 'Version 2']);
  });
  it('becomes the recipe again, or is looked at in its place', () => {
    const changed = after(kept, changeRecipe(kept, at(0), 'x', { strength: 0.2, shift: { hueDeg: 9 } }));
    const looked = recipeOf(withVersion(changed, version!));
    const taken = recipeOf(after(changed, takeVersion(changed, at(0), version!)));
    for (const { strength, animated } of [looked, taken]) expect([strength, animated]).toEqual([1, recipe.animated]);
    expect(recipeOf(changed).strength).toBe(0.2);
  });
  it('is of its own piece and colourway alone', () => {
    expect(versionsOf(kept, at(0, { colourwayId: 'other' as never }))).toEqual([]);
    expect(keepVersion(documentWith([]), at(0), 'x').edits).toEqual([]);
  });
  it('goes', () => expect(after(kept, dropVersion(version!)).versions).toEqual([]));
});
