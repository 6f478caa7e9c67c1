// What an edit may hold, by who makes it.
import { isDeepStrictEqual } from 'node:util';
import type { Edit } from '@mellow/contract';
import { platesOf } from '@mellow/core';
import type { LoggedEdit } from '../db/changes.ts';
import { sightings } from '../db/entities.ts';
import type { Queryable } from '../db/pool.ts';
import { Refused } from '../errors.ts';

/** The footage that edits name. */
export const mediaOfEdits = (edits: readonly Edit[]): string[] =>
  edits.flatMap((edit) => {
    if (edit.value === null) return [];
    if (edit.kind === 'shot') return [edit.value.mediaId];
    const stacks = edit.kind === 'sighting' ? [edit.value.layers] : [];
    if (edit.kind === 'still') stacks.push(...edit.value.renders.map((r) => r.layers));
    return stacks.flatMap((layers) => platesOf(layers).flatMap((plate) => plate.mediaId ?? []));
  });

/** Is a sighting's state all that differs? */
const isOnlyState = (before: object | null, after: object | null): boolean =>
  before !== null && after !== null && isDeepStrictEqual({ ...before, state: null }, { ...after, state: null });

const NOT_MORE = 'You are a reviewer of this project: you approve, and write notes.';

/** Does a step of the history change no more than a reviewer may? Of one who was an editor once it may be more. */
export function assertStepOfReviewer(edits: readonly LoggedEdit[]): void {
  if (edits.every((edit) => edit.kind === 'sighting' && isOnlyState(edit.before, edit.after))) return;
  throw new Refused('not-allowed', NOT_MORE);
}

/** A reviewer approves and sends back: of a sighting its state, and nothing else. Throws Refused. */
export async function assertOnlyStates(db: Queryable, edits: readonly Edit[]): Promise<void> {
  for (const [i, edit] of edits.entries()) {
    const now = edit.kind === 'sighting' && edit.value ? await sightings.find(db, edit.id) : undefined;
    if (now && isOnlyState(now.value, edit.value)) continue;
    throw new Refused('not-allowed', NOT_MORE, [
      { path: `edits.${i}`, message: 'is more than the state of a sighting' },
    ]);
  }
}
