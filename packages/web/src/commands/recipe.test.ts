import { describe, expect, it } from 'vitest';
import type { Animated, ProjectDocument, Recipe } from '@mellow/contract';
import { NEUTRAL_FINER, NEUTRAL_RECIPE, NEUTRAL_SHIFT } from '@mellow/core';
import { changeRecipe, recipeDraft, recipeOnFrame, resetRecipe, resetTool, setRecipeKeyframes } from './recipe.ts';
import { addPiece } from './pieces.ts';
import { stateRequirement } from './requirement.ts';
import * as shots from './shots.ts';
import { after, at, documentWith, stored } from './testing.ts';

const keyframes = (...pairs: [number, number][]) =>
  pairs.map(([frame, value]) => ({ frame, value, ease: 'linear' as const }));
const withRecipe = (more: { animated?: Record<string, Animated>; finer?: Recipe['finer'] }): ProjectDocument => {
  const recipe = {
    id: 'r',
    projectId: 'p',
    pieceId: 'cup',
    colourwayId: 'c',
    ...NEUTRAL_RECIPE,
    animated: {},
  };
  return { ...documentWith([]), recipes: stored({ ...recipe, ...more }) } as unknown as ProjectDocument;
};
const recipeAfter = (document: ProjectDocument, change: Parameters<typeof after>[1]) =>
  after(document, change).recipes[0]!.value as Omit<Recipe, 'animated'> & { animated: Record<string, Animated> };

describe('a recipe', () => {
  it('is made with its first change, of the piece and colourway in hand', () => {
    const document = documentWith([]);
    const change = changeRecipe(document, at(0), 'Hue', { shift: { hueDeg: 40 } });
    expect(change.label).toBe('Hue of Cup');
    expect(recipeAfter(document, change)).toMatchObject({
      pieceId: 'cup',
      colourwayId: 'c',
      match: NEUTRAL_RECIPE.match,
      shift: { ...NEUTRAL_SHIFT, hueDeg: 40 },
      strength: 1,
      animated: {},
    });
  });
  it('changes for all shots where it has no keyframes here', () => {
    const document = withRecipe({ animated: { s2: { 'shift.hueDeg': keyframes([0, 5]) } } });
    const next = recipeAfter(document, changeRecipe(document, at(3), 'Hue', { shift: { hueDeg: 9 }, strength: 0.5 }));
    expect([next.id, next.shift.hueDeg, next.strength]).toEqual(['r', 9, 0.5]);
    expect(next.animated).toEqual({ s2: { 'shift.hueDeg': keyframes([0, 5]) } });
  });
  it('changes on this frame of this shot where it has', () => {
    const animated = { s1: { 'shift.hueDeg': keyframes([0, 0], [10, 100]) }, s2: { strength: keyframes([0, 1]) } };
    const document = withRecipe({ animated });
    expect(recipeOnFrame(document, at(5)).shift.hueDeg).toBeCloseTo(50, 9);
    const next = recipeAfter(document, changeRecipe(document, at(5), 'Hue', { shift: { hueDeg: 70 } }));
    expect(next.shift.hueDeg).toBe(0);
    expect(next.animated.s1!['shift.hueDeg']!.map((k) => [k.frame, k.value])).toEqual([
      [0, 0],
      [5, 70],
      [10, 100],
    ]);
    expect(next.animated.s2).toEqual(animated.s2);
  });
  it('while a hand moves is what the change will be', () => {
    const document = withRecipe({});
    const { recipe } = recipeDraft(document, at(0), { shift: { density: 0.3 } })!;
    expect(recipe).toMatchObject({ pieceId: 'cup', colourwayId: 'c', shift: { density: 0.3 } });
    expect(recipe!.shift).toEqual(
      recipeAfter(document, changeRecipe(document, at(0), '', { shift: { density: 0.3 } })).shift,
    );
    expect(recipeDraft(document, at(0, { pieceId: undefined }), {})).toBeUndefined();
  });
  it('changes some numbers of a finer tool and leaves the others', () => {
    const document = withRecipe({});
    const first = recipeAfter(document, changeRecipe(document, at(0), 'Dye', { finer: { dye: { concentration: 2 } } }));
    expect(first.finer).toEqual({ ...NEUTRAL_FINER, dye: { on: false, concentration: 2 } });
    const dyed = withRecipe({ finer: first.finer });
    const next = recipeAfter(dyed, changeRecipe(dyed, at(0), 'Knee', { finer: { guard: { on: true, knee: 0.7 } } }));
    expect(next.finer).toEqual({ ...first.finer, guard: { on: true, knee: 0.7 } });
  });
  it('keyframes a number of a finer tool by its dotted name', () => {
    const document = withRecipe({ animated: { s1: { 'finer.bands.hue.90': keyframes([0, 0], [10, 20]) } } });
    expect(recipeOnFrame(document, at(5)).finer.bands.hue['90']).toBeCloseTo(10, 9);
    const hue = { ...NEUTRAL_FINER.bands.hue, '90': 15 };
    const next = recipeAfter(document, changeRecipe(document, at(5), 'x', { finer: { bands: { hue } } }));
    expect(next.finer.bands.hue['90']).toBe(0);
    expect(next.animated.s1!['finer.bands.hue.90']!.map((k) => k.value)).toEqual([0, 15, 20]);
  });
  it('has one tool reset with its keyframes here, the other tools and shots as they are', () => {
    const finer = { ...NEUTRAL_FINER, dye: { on: true, concentration: 2 }, guard: { on: true, knee: 0.5 } };
    const animated = {
      s1: { 'finer.dye.concentration': keyframes([0, 2]), 'finer.guard.knee': keyframes([0, 0.5]) },
      s2: { 'finer.dye.concentration': keyframes([0, 3]) },
    };
    const document = withRecipe({ finer, animated });
    const next = recipeAfter(document, resetTool(document, at(0), 'dye', 'Reset dye'));
    expect(next.finer).toEqual({ ...finer, dye: NEUTRAL_FINER.dye });
    expect(Object.keys(next.animated.s1!)).toEqual(['finer.guard.knee']);
    expect(next.animated.s2).toEqual(animated.s2);
  });
  it('loses its keyframes in this shot when the last is taken away, and when it is reset', () => {
    const document = withRecipe({
      animated: { s1: { strength: keyframes([0, 1]) }, s2: { strength: keyframes([4, 1]) } },
    });
    expect(recipeAfter(document, setRecipeKeyframes(document, at(0), 'x', {})).animated).toEqual({
      s2: { strength: keyframes([4, 1]) },
    });
    const reset = recipeAfter(document, resetRecipe(document, at(0)));
    expect([reset.shift, Object.keys(reset.animated)]).toEqual([NEUTRAL_SHIFT, ['s2']]);
  });
});

describe('a requirement', () => {
  const stated = {
    name: ' Marigold ',
    lab: { L: 60, a: 20, b: 60 },
    illuminant: 'D65' as const,
    tolerance: 1.5,
    note: '',
    asInShotId: null,
    of: 'mean' as const,
  };
  it('is made, then stated anew under the same id', () => {
    const document = documentWith([]);
    const change = stateRequirement(document, at(0), stated);
    const next = after(document, change);
    expect([change.label, next.requirements[0]!.value.name]).toEqual(['Require Marigold for Cup', 'Marigold']);
    const again = after(next, stateRequirement(next, at(0), { ...stated, name: '', tolerance: null }));
    const body = after(next, stateRequirement(next, at(0), { ...stated, of: 'body' }));
    expect([next, body].map((d) => d.requirements[0]!.value.of)).toEqual(['mean', 'body']);
    expect(again.requirements.map((r) => [r.value.id, r.value.name, r.value.tolerance])).toEqual([
      [next.requirements[0]!.value.id, 'Required', null],
    ]);
  });
  it('is not stated for nothing', () =>
    expect(stateRequirement(documentWith([]), at(0, { pieceId: undefined }), stated).edits).toEqual([]));
});

it('a new piece is recoloured last', () => {
  const document = documentWith([]);
  const { change, pieceId } = addPiece(document, { name: '  Scarf ', kind: 'garment' });
  expect(change.label).toBe('Add the garment Scarf');
  expect(
    after(document, change)
      .pieces.map((p) => [p.value.id, p.value.name, p.value.position])
      .at(-1),
  ).toEqual([pieceId, 'Scarf', 1]);
});

describe('shots', () => {
  const document = documentWith([]);
  const [bar] = document.shots.map((s) => s.value);
  it('are removed with what hangs on them', () =>
    expect(after(document, shots.removeShot(bar!)).sightings).toEqual([]));
  it('are read as another encoding', () =>
    expect(after(document, shots.setEncoding(bar!, 'rec2020')).shots[0]!.value.encoding).toBe('rec2020'));
  it('have a balance, or none where it does nothing', () => {
    const set = after(document, shots.changeBalance(bar!, 'Exposure', { exposureStops: 1 })).shots[0]!.value;
    expect(set.balance).toMatchObject({ exposureStops: 1, saturation: 1 });
    const back = shots.changeBalance(set, 'Exposure', { exposureStops: 0 });
    expect(after(document, back).shots[0]!.value.balance).toBeNull();
  });
});
