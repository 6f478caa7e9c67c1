import type { ProjectDocument, Recipe, Stored } from '@mellow/contract';
import type { Draft } from '../view/draftSlice.ts';

/** A list with one entity's value changed. */
const changed = <T extends { id: string }>(rows: Stored<T>[], id: string, next: (value: T) => T): Stored<T>[] =>
  rows.map((row) => (row.value.id === id ? { ...row, value: next(row.value) } : row));

function withRecipe(rows: Stored<Recipe>[], draft: NonNullable<Draft['recipe']>): Stored<Recipe>[] {
  const isIt = ({ value }: Stored<Recipe>) =>
    value.pieceId === draft.pieceId && value.colourwayId === draft.colourwayId;
  const value = { animated: {}, ...rows.find(isIt)?.value, ...draft } as Recipe;
  return [...rows.filter((row) => !isIt(row)), { revision: 0, value }];
}

/** The document as the moving hand would have it. Nothing in it changes that the hand does not move. */
export function withDraft(document: ProjectDocument, draft: Draft): ProjectDocument {
  const { sighting, balance, light, recipe, track, look } = draft;
  const out = { ...document };
  if (sighting) {
    const { sightingId, ...moved } = sighting;
    out.sightings = changed(document.sightings, sightingId, (value) => ({ ...value, ...moved }));
  }
  if (balance) out.shots = changed(document.shots, balance.shotId, (s) => ({ ...s, balance: balance.balance }));
  if (light) out.shots = changed(out.shots, light.shotId, (s) => ({ ...s, light: light.light }));
  if (track) out.tracks = changed(document.tracks, track.id, () => track);
  if (look?.whose === 'project') {
    const { value } = document.project;
    out.project = { ...document.project, value: { ...value, look: { isOn: true, ...value.look, ...look.look } } };
  } else if (look) out.shots = changed(out.shots, look.whose, (s) => ({ ...s, look: look.look }));
  if (recipe) out.recipes = withRecipe(document.recipes, recipe);
  return Object.keys(draft).length > 0 ? out : document;
}
