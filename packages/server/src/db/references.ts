import { carriedRunIds, type Edit, type EntityKind, type Layer, type Sighting } from '@mellow/contract';
import { Refused } from '../errors.ts';
import type { Queryable } from './pool.ts';

type Named = readonly [kind: EntityKind, id: string];

const tracksOfLayers = (layers: readonly Layer[]): string[] =>
  layers.flatMap((l) => {
    if (l.kind === 'group') return tracksOfLayers(l.layers);
    const ofStrokes = l.kind === 'scribble' ? l.strokes.flatMap((s) => (s.follow ? [s.follow.trackId] : [])) : [];
    return 'follow' in l && l.follow ? [l.follow.trackId, ...ofStrokes] : ofStrokes;
  });

function ofSighting({ pieceId, shotId, layers, spill }: Sighting): Named[] {
  const followed = [...tracksOfLayers(layers), ...(spill?.within?.follow ? [spill.within.follow.trackId] : [])];
  return [['piece', pieceId], ['shot', shotId], ...followed.map((id) => ['track', id] as const)];
}

/** The other entities that an edit's value names. */
function referencesOf(edit: Edit): Named[] {
  if (edit.value === null) return [];
  switch (edit.kind) {
    case 'project':
      return edit.value.referenceShotId ? [['shot', edit.value.referenceShotId]] : [];
    case 'requirement':
      return [
        ['piece', edit.value.pieceId],
        ['colourway', edit.value.colourwayId],
        ...(edit.value.asInShotId ? [['shot', edit.value.asInShotId] as const] : []),
      ];
    case 'recipe':
    case 'version':
      return [
        ['piece', edit.value.pieceId],
        ['colourway', edit.value.colourwayId],
        ...Object.keys(edit.value.animated).map((id) => ['shot', id] as const),
      ];
    case 'sighting':
      return ofSighting(edit.value);
    case 'track':
      return [['shot', edit.value.shotId]];
    case 'still':
      return [
        ['shot', edit.value.shotId],
        ...(edit.value.colourwayId ? [['colourway', edit.value.colourwayId] as const] : []),
        ...edit.value.renders.map((r) => ['piece', r.pieceId] as const),
      ];
    case 'piece':
      return edit.value.partOf ? [['piece', edit.value.partOf]] : [];
    case 'shot':
    case 'colourway':
      return [];
  }
}

/** Where the entities of a kind lie. Constants, never input. */
const TABLES: Partial<Record<EntityKind, string>> = {
  shot: 'shot',
  piece: 'piece',
  colourway: 'colourway',
  track: 'track',
};

/** Refuses edits that name entities of another project. What has been removed since may still be named. */
export async function assertReferencesWithin(db: Queryable, projectId: string, edits: readonly Edit[]): Promise<void> {
  for (const [kind, table] of Object.entries(TABLES)) {
    const at = new Map<string, number>();
    edits.forEach((edit, i) => {
      for (const [of, id] of referencesOf(edit)) if (of === kind && !at.has(id)) at.set(id, i);
    });
    if (at.size === 0) continue;
    const { rows } = await db.query<{ id: string }>(
      `select id from ${table} where id = any($1::uuid[]) and project_id <> $2 limit 1`,
      [[...at.keys()], projectId],
    );
    const foreign = rows[0]?.id;
    if (foreign === undefined) continue;
    const path = `edits.${at.get(foreign)}.value`;
    throw new Refused('invalid-input', `The ${kind} ${foreign} belongs to another project.`, [
      { path, message: `names a ${kind} of another project` },
    ]);
  }
  await assertRunsWithin(db, projectId, edits);
}

/** The runs of a track, and the passes of a carried selection, are this project's own. */
async function assertRunsWithin(db: Queryable, projectId: string, edits: readonly Edit[]): Promise<void> {
  const tracked = edits.flatMap((e) => (e.kind === 'track' && e.value ? e.value.runs.map((r) => r.id) : []));
  const stacks = edits.flatMap((e) => {
    if (e.kind === 'sighting' && e.value) return [e.value.layers];
    return e.kind === 'still' && e.value ? e.value.renders.map((r) => r.layers) : [];
  });
  const ids = [...tracked, ...stacks.flatMap(carriedRunIds)];
  if (ids.length === 0) return;
  const { rows } = await db.query<{ id: string }>(
    `select id from (select id, project_id from track_run union all select id, project_id from carry_run) as run
      where id = any($1::uuid[]) and project_id <> $2 limit 1`,
    [ids, projectId],
  );
  if (rows[0])
    throw new Refused('invalid-input', `The run ${rows[0].id} belongs to another project.`, [
      { path: 'edits', message: 'names a run of another project' },
    ]);
}
