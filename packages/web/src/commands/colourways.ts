import type { Colourway, ColourwayId, ProjectDocument, RecipeId, RequirementId, Trim } from '@mellow/contract';
import type { Change } from '../editing/change.ts';

const nameFor = (document: ProjectDocument, wanted: string): string => {
  const taken = new Set(document.colourways.map((c) => c.value.name));
  if (!taken.has(wanted)) return wanted;
  let n = 2;
  while (taken.has(`${wanted} ${n}`)) n++;
  return `${wanted} ${n}`;
};
function made(document: ProjectDocument, name: string): Colourway {
  const position = Math.max(-1, ...document.colourways.map((c) => c.value.position)) + 1;
  return { id: crypto.randomUUID() as ColourwayId, projectId: document.project.value.id, name, position };
}

/** A colourway with nothing required yet. */
export function addColourway(document: ProjectDocument, name: string): { change: Change; id: ColourwayId } {
  const value = made(document, nameFor(document, name.trim() || 'Colourway'));
  const edits: Change['edits'] = [{ kind: 'colourway', id: value.id, value }];
  return { change: { label: `Add the colourway ${value.name}`, edits }, id: value.id };
}

/** A colourway with the requirements, recipes and trims of another. */
export function duplicateColourway(document: ProjectDocument, from: Colourway): { change: Change; id: ColourwayId } {
  const value = made(document, nameFor(document, `${from.name} copy`));
  const isFrom = ({ value: each }: { value: { colourwayId: string } }) => each.colourwayId === from.id;
  const edits: Change['edits'] = [
    { kind: 'colourway', id: value.id, value },
    ...document.requirements.filter(isFrom).map(({ value: each }) => {
      const id = crypto.randomUUID() as RequirementId;
      return { kind: 'requirement' as const, id, value: { ...each, id, colourwayId: value.id } };
    }),
    ...document.recipes.filter(isFrom).map(({ value: each }) => {
      const id = crypto.randomUUID() as RecipeId;
      return { kind: 'recipe' as const, id, value: { ...each, id, colourwayId: value.id } };
    }),
    ...document.sightings.flatMap(({ value: each }): Change['edits'] => {
      const trims = each.trims as Record<string, Trim>;
      const own = trims[from.id];
      return own ? [{ kind: 'sighting', id: each.id, value: { ...each, trims: { ...trims, [value.id]: own } } }] : [];
    }),
  ];
  return { change: { label: `Duplicate the colourway ${from.name}`, edits }, id: value.id };
}
export const renameColourway = (colourway: Colourway, name: string): Change => ({
  label: `Rename the colourway ${colourway.name}`,
  edits: [{ kind: 'colourway', id: colourway.id, value: { ...colourway, name: name.trim() || colourway.name } }],
});
export const removeColourway = (colourway: Colourway): Change => ({
  label: `Remove the colourway ${colourway.name}`,
  edits: [{ kind: 'colourway', id: colourway.id, value: null }],
});
