import { describe, expect, it } from 'vitest';
import type { ProjectDocument } from '@mellow/contract';
import { NEUTRAL_GAIN, NEUTRAL_RECIPE, NEUTRAL_SHIFT } from '@mellow/core';
import { addColourway, duplicateColourway, removeColourway, renameColourway } from './colourways.ts';
import { after, documentWith, shape, stored } from './testing.ts';

const trim = { gain: NEUTRAL_GAIN, shift: NEUTRAL_SHIFT };
const retail = { id: 'c', projectId: 'p', name: 'Retail', position: 0 };
const document = {
  ...documentWith([shape('a')], { trims: { c: trim } as never }),
  colourways: stored(retail, { ...retail, id: 'd', name: 'Plum', position: 3 }),
  requirements: stored(
    { id: 'q', pieceId: 'cup', colourwayId: 'c', name: 'Marigold' },
    { id: 'w', pieceId: 'cup', colourwayId: 'd', name: 'Plum' },
  ),
  recipes: stored({ ...NEUTRAL_RECIPE, id: 'r', pieceId: 'cup', colourwayId: 'c', strength: 0.4 }),
} as unknown as ProjectDocument;
const [first] = document.colourways.map((c) => c.value);
const names = (d: ProjectDocument) => d.colourways.map((c) => c.value.name);

describe('a colourway', () => {
  it('is added last, under a name that is not taken', () => {
    const { change, id } = addColourway(document, 'Plum');
    const next = after(document, change);
    expect(names(next)).toEqual(['Retail', 'Plum', 'Plum 2']);
    expect(next.colourways.at(-1)!.value).toMatchObject({ id, position: 4 });
    expect(names(after(next, addColourway(next, 'Plum').change)).at(-1)).toBe('Plum 3');
    expect(names(after(document, addColourway(document, ' ').change)).at(-1)).toBe('Colourway');
  });
  it('duplicated, has the other’s requirements, recipes and trims as its own', () => {
    const { change, id } = duplicateColourway(document, first!);
    const next = after(document, change);
    expect(change.label).toBe('Duplicate the colourway Retail');
    expect(names(next).at(-1)).toBe('Retail copy');
    const copies = [...next.requirements, ...next.recipes]
      .filter((r) => r.value.colourwayId === id)
      .map((r) => r.value);
    expect(copies).toMatchObject([{ name: 'Marigold' }, { strength: 0.4 }]);
    expect(copies.map((c) => c.id)).not.toContain('q');
    expect(next.sightings[0]!.value.trims).toEqual({ c: trim, [id]: trim });
    // what there was is as it was
    expect(next.requirements.slice(0, 2)).toEqual(document.requirements);
  });
  it('is renamed, but not to nothing', () => {
    expect(names(after(document, renameColourway(first!, ' Trade ')))[0]).toBe('Trade');
    expect(names(after(document, renameColourway(first!, '  ')))[0]).toBe('Retail');
  });
  it('goes with all that is stated for it', () => {
    const next = after(document, removeColourway(first!));
    expect([names(next), next.requirements.length, next.recipes.length]).toEqual([['Plum'], 1, 0]);
  });
});
