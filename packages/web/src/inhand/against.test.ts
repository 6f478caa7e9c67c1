import { describe, expect, it } from 'vitest';
import type { ProjectDocument } from '@mellow/contract';
import { NEUTRAL_RECIPE } from '@mellow/core';
import { keepStill, keepVersion } from '../commands/judging.ts';
import { changeRecipe } from '../commands/recipe.ts';
import { after, at, documentWith, shape, stored } from '../commands/testing.ts';
import { againstScene } from './against.ts';
import { frameSceneAt, type Looked } from './frameScene.ts';

const media = { id: 'm', width: 1280, height: 720, frames: 20 };
const recipe = (id: string, colourwayId: string, strength: number) => ({
  ...NEUTRAL_RECIPE,
  id,
  projectId: 'p',
  pieceId: 'cup',
  colourwayId,
  strength,
  animated: {},
});
const first = {
  ...documentWith([shape('a')]),
  media: [media],
  proxies: { m: { state: 'done' } },
  recipes: stored(recipe('r', 'c', 0.9), recipe('q', 'd', 0.3)),
} as unknown as ProjectDocument;
const kept = after(after(first, keepStill(first, at(4), 'K')), keepVersion(first, at(0), 'V'));
const document = after(kept, changeRecipe(kept, at(0), 'x', { strength: 0.5 }));
const looked = {
  document,
  shot: document.shots[0]!.value,
  media: media as never,
  colourwayId: 'c',
  pieceId: 'cup',
  motions: new Map(),
} as Looked;
const strengthOf = (against: Parameters<typeof againstScene>[2]) =>
  againstScene(looked, 7, against)?.sightings[0]!.program.strength;

describe('what the picture is compared with', () => {
  it('is the source, or nothing that is gone', () => {
    expect(againstScene(looked, 7, { kind: 'source' })).toBeUndefined();
    expect(againstScene(looked, 7, { kind: 'still', id: 'gone' })).toBeUndefined();
    expect(againstScene(looked, 7, { kind: 'version', id: 'gone' })).toBeUndefined();
  });
  it('is the same frame in another colourway, or with a version of the recipe', () => {
    expect(frameSceneAt(looked, 7).sightings[0]!.program.strength).toBe(0.5);
    expect(strengthOf({ kind: 'colourway', id: 'd' })).toBe(0.3);
    expect(strengthOf({ kind: 'version', id: document.versions[0]!.value.id })).toBe(0.9);
  });
  it('is a still’s own frame as it was kept', () => {
    const scene = againstScene(looked, 7, { kind: 'still', id: document.stills[0]!.value.id })!;
    expect(scene.frame.url).toBe(frameSceneAt(looked, 4).frame.url);
    expect([scene.sightings[0]!.program.strength, scene.index]).toEqual([0.9, 0]);
  });
});
