import type { ChangeAnswer, Edit, EntityKind, ProjectDocument, Stored } from '@mellow/contract';

/** An edit before its revision is known: the command layer looks that up when it sends. */
export type PlainEdit = Edit extends infer E ? (E extends Edit ? Omit<E, 'revision'> : never) : never;

const LISTS = {
  shot: 'shots',
  piece: 'pieces',
  colourway: 'colourways',
  requirement: 'requirements',
  recipe: 'recipes',
  sighting: 'sightings',
  track: 'tracks',
  version: 'versions',
  still: 'stills',
} as const satisfies Partial<Record<EntityKind, keyof ProjectDocument>>;
type Row = Stored<{ id: string; position?: number }>;

const listOf = (document: ProjectDocument, kind: Exclude<EntityKind, 'project'>): Row[] => document[LISTS[kind]];

/** The revision the document holds of an entity, or null when it does not exist (or is not yet acknowledged). */
export function revisionOf(document: ProjectDocument, kind: EntityKind, id: string): number | null {
  const row = kind === 'project' ? document.project : listOf(document, kind).find((r) => r.value.id === id);
  return row && row.revision > 0 ? row.revision : null;
}

/** What the document holds of the entity that an edit is of; undefined where it holds none. */
export function valueOf(document: ProjectDocument, { kind, id }: PlainEdit): PlainEdit['value'] | undefined {
  if (kind === 'project') return document.project.value;
  return listOf(document, kind).find((r) => r.value.id === id)?.value as PlainEdit['value'] | undefined;
}

/** Applies an edit to the document in place. A new entity stands at revision 0 until the server has answered. */
export function applyEdit(document: ProjectDocument, edit: PlainEdit): void {
  if (edit.kind === 'project') {
    if (edit.value) document.project.value = edit.value;
    return;
  }
  const rows = listOf(document, edit.kind);
  const at = rows.findIndex((r) => r.value.id === edit.id);
  if (edit.value === null) {
    if (at >= 0) rows.splice(at, 1);
    if (edit.kind === 'shot') {
      document.sightings = document.sightings.filter((s) => s.value.shotId !== edit.id);
      document.tracks = document.tracks.filter((t) => t.value.shotId !== edit.id);
      document.stills = document.stills.filter((s) => s.value.shotId !== edit.id);
    }
    if (edit.kind === 'piece') {
      document.sightings = document.sightings.filter((s) => s.value.pieceId !== edit.id);
      document.recipes = document.recipes.filter((s) => s.value.pieceId !== edit.id);
      document.requirements = document.requirements.filter((s) => s.value.pieceId !== edit.id);
      document.versions = document.versions.filter((v) => v.value.pieceId !== edit.id);
    }
    if (edit.kind === 'colourway') {
      document.recipes = document.recipes.filter((s) => s.value.colourwayId !== edit.id);
      document.requirements = document.requirements.filter((s) => s.value.colourwayId !== edit.id);
      document.versions = document.versions.filter((v) => v.value.colourwayId !== edit.id);
    }
  } else if (at >= 0) rows[at]!.value = edit.value;
  else rows.push({ value: edit.value, revision: 0 });
  if (edit.kind === 'shot' || edit.kind === 'piece')
    rows.sort((p, q) => (p.value.position ?? 0) - (q.value.position ?? 0));
}

/** Takes over the revisions and history of an acknowledged change. */
export function acknowledge(document: ProjectDocument, { revisions, history }: ChangeAnswer): void {
  document.history = history;
  for (const kind of Object.keys(LISTS) as (keyof typeof LISTS)[])
    for (const row of listOf(document, kind)) row.revision = revisions[row.value.id] ?? row.revision;
  document.project.revision = revisions[document.project.value.id] ?? document.project.revision;
}
