import {
  Colourway,
  Piece,
  Project,
  Recipe,
  RecipeVersion,
  Requirement,
  Shot,
  Sighting,
  Still,
  Track,
  type EntityKind,
} from '@mellow/contract';
import { aggregate, type Aggregate } from './aggregate.ts';
import type { Queryable } from './pool.ts';

export const projects = aggregate<Project>({
  table: 'project',
  schema: Project,
  order: 'created_at',
  columns: {
    id: { column: 'id' },
    name: { column: 'name' },
    tolerance: { column: 'tolerance' },
    referenceShotId: { column: 'reference_shot_id' },
    look: { column: 'look', json: true },
    viewTable: { column: 'view_table', json: true },
  },
});
const owned = { id: { column: 'id' }, projectId: { column: 'project_id' } } as const;
export const shots = aggregate<Shot>({
  table: 'shot',
  schema: Shot,
  order: 'position, id',
  columns: {
    ...owned,
    mediaId: { column: 'media_id' },
    name: { column: 'name' },
    position: { column: 'position' },
    encoding: { column: 'encoding' },
    balance: { column: 'balance', json: true },
    light: { column: 'light', json: true },
    patches: { column: 'patches', json: true },
    span: { column: 'span', json: true },
    look: { column: 'look', json: true },
  },
});
export const pieces = aggregate<Piece>({
  table: 'piece',
  schema: Piece,
  order: 'position, id',
  columns: {
    ...owned,
    name: { column: 'name' },
    kind: { column: 'kind' },
    position: { column: 'position' },
    partOf: { column: 'part_of' },
  },
});
export const colourways = aggregate<Colourway>({
  table: 'colourway',
  schema: Colourway,
  order: 'position, id',
  columns: { ...owned, name: { column: 'name' }, position: { column: 'position' } },
});
const paired = { ...owned, pieceId: { column: 'piece_id' }, colourwayId: { column: 'colourway_id' } } as const;
export const requirements = aggregate<Requirement>({
  table: 'requirement',
  schema: Requirement,
  order: 'id',
  columns: {
    ...paired,
    name: { column: 'name' },
    lab: { column: 'lab', json: true },
    illuminant: { column: 'illuminant' },
    tolerance: { column: 'tolerance' },
    note: { column: 'note' },
    asInShotId: { column: 'as_in_shot_id' },
    of: { column: 'of_what' },
  },
});
export const recipes = aggregate<Recipe>({
  table: 'recipe',
  schema: Recipe,
  order: 'id',
  columns: {
    ...paired,
    match: { column: 'match', json: true },
    repaint: { column: 'repaint', json: true },
    shift: { column: 'shift', json: true },
    finer: { column: 'finer', json: true },
    strength: { column: 'strength' },
    animated: { column: 'animated', json: true },
  },
});
export const sightings = aggregate<Sighting>({
  table: 'sighting',
  schema: Sighting,
  order: 'id',
  columns: {
    ...owned,
    pieceId: { column: 'piece_id' },
    shotId: { column: 'shot_id' },
    layers: { column: 'layers', json: true },
    cleanUp: { column: 'clean_up', json: true },
    spill: { column: 'spill', json: true },
    animated: { column: 'animated', json: true },
    steadyFrames: { column: 'steady_frames' },
    trims: { column: 'trims', json: true },
    body: { column: 'body', json: true },
    state: { column: 'state' },
  },
});
export const tracks = aggregate<Track>({
  table: 'track',
  schema: Track,
  order: 'name, id',
  columns: {
    ...owned,
    shotId: { column: 'shot_id' },
    name: { column: 'name' },
    referenceFrame: { column: 'reference_frame' },
    region: { column: 'region', json: true },
    freedom: { column: 'freedom', json: true },
    holdOuts: { column: 'hold_outs', json: true },
    manual: { column: 'manual', json: true },
    runs: { column: 'runs', json: true },
  },
});

export const versions = aggregate<RecipeVersion>({
  table: 'recipe_version',
  schema: RecipeVersion,
  order: 'created_at, id',
  columns: {
    ...paired,
    name: { column: 'name' },
    numbers: { column: 'numbers', json: true },
    animated: { column: 'animated', json: true },
  },
});
export const stills = aggregate<Still>({
  table: 'still',
  schema: Still,
  order: 'created_at, id',
  columns: {
    ...owned,
    name: { column: 'name' },
    shotId: { column: 'shot_id' },
    frame: { column: 'frame' },
    colourwayId: { column: 'colourway_id' },
    encoding: { column: 'encoding' },
    balance: { column: 'balance', json: true },
    renders: { column: 'renders', json: true },
  },
});

const AGGREGATES = {
  project: projects,
  shot: shots,
  piece: pieces,
  colourway: colourways,
  requirement: requirements,
  recipe: recipes,
  sighting: sightings,
  track: tracks,
  version: versions,
  still: stills,
};

/** The storage of a kind. The value's kind has been checked by the contract before it gets here. */
export const aggregateOf = (kind: EntityKind): Aggregate<{ id: string }> => AGGREGATES[kind];

/** What must go with a removed entity, so that one undo brings all of it back. */
export async function dependentsOf(
  db: Queryable,
  kind: EntityKind,
  id: string,
): Promise<{ kind: EntityKind; id: string }[]> {
  const search: Partial<Record<EntityKind, [EntityKind, string][]>> = {
    shot: [
      ['sighting', 'select id from sighting where shot_id = $1'],
      ['track', 'select id from track where shot_id = $1'],
      ['still', 'select id from still where shot_id = $1'],
    ],
    piece: [
      ['sighting', 'select id from sighting where piece_id = $1'],
      ['recipe', 'select id from recipe where piece_id = $1'],
      ['requirement', 'select id from requirement where piece_id = $1'],
      ['version', 'select id from recipe_version where piece_id = $1'],
    ],
    colourway: [
      ['recipe', 'select id from recipe where colourway_id = $1'],
      ['requirement', 'select id from requirement where colourway_id = $1'],
      ['version', 'select id from recipe_version where colourway_id = $1'],
    ],
  };
  const found: { kind: EntityKind; id: string }[] = [];
  for (const [dependent, text] of search[kind] ?? []) {
    const { rows } = await db.query<{ id: string }>(text, [id]);
    found.push(...rows.map((row) => ({ kind: dependent, id: row.id })));
  }
  return found;
}
