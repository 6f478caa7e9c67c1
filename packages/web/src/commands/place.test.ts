import { expect, it } from 'vitest';
import type { ProjectDocument } from '@mellow/contract';
import { pieceIn, recipeIn, shotIn, sightingIn } from './place.ts';
import { at, documentWith, stored } from './testing.ts';

const own = documentWith([]);
const document = {
  ...own,
  pieces: [...stored({ id: 'tray' }), ...own.pieces],
  sightings: [
    ...stored(
      { id: 'tray-s1', pieceId: 'tray', shotId: 's1' },
      { id: 'cup-s2', pieceId: 'cup', shotId: 's2' },
      { id: 'cup-s1', pieceId: 'cup', shotId: 's1' },
    ),
  ],
  recipes: stored(
    { id: 'tray-c', pieceId: 'tray', colourwayId: 'c' },
    { id: 'cup-d', pieceId: 'cup', colourwayId: 'd' },
    { id: 'cup-c', pieceId: 'cup', colourwayId: 'c' },
  ),
} as unknown as ProjectDocument;

it('finds the shot, piece, sighting and recipe in hand among others', () => {
  const place = at(0);
  const found = [shotIn, pieceIn, sightingIn, recipeIn].map((of) => of(document, place)?.id);
  expect(found).toEqual(['s1', 'cup', 'cup-s1', 'cup-c']);
  expect(shotIn(document, at(0, { shotId: 's2' as never }))?.id).toBe('s2');
});
it('finds nothing where nothing, or what is gone, is in hand', () => {
  const gone = { shotId: 'gone', pieceId: 'gone', colourwayId: 'gone' } as never;
  for (const place of [at(0, gone), { ...at(0), shotId: undefined, pieceId: undefined, colourwayId: undefined }])
    expect([shotIn, pieceIn, sightingIn, recipeIn].map((of) => of(document, place))).toEqual(Array(4).fill(undefined));
});
