// What the page lets its person edit: the server refuses the rest as well, but later.
import type { ProjectDocument } from '@mellow/contract';
import type { PlainEdit } from './optimistic.ts';

/** Is a sighting's state all that an edit changes? */
function isOnlyState({ sightings }: ProjectDocument, edit: PlainEdit): boolean {
  if (edit.kind !== 'sighting' || edit.value === null) return false;
  const now = sightings.find((s) => s.value.id === edit.id)?.value;
  return now !== undefined && JSON.stringify({ ...edit.value, state: now.state }) === JSON.stringify(now);
}

/** Why edits of a project may not be made; undefined where they may. */
export function whyNotEdit(document: ProjectDocument, edits: readonly PlainEdit[]): string | undefined {
  if (document.role === 'editor') return undefined;
  if (document.role === 'viewer') return 'You may look at this project, not change it.';
  if (edits.every((edit) => isOnlyState(document, edit))) return undefined;
  return 'You are a reviewer of this project: you approve, and write notes.';
}
