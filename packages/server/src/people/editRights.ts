// What an edit may hold, by who makes it.
import { isDeepStrictEqual } from 'node:util';
import type { Edit } from '@mellow/contract';
import { platesOf } from '@mellow/core';
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

/** A reviewer approves and sends back: of a sighting its state, and nothing else. Throws Refused. */
export async function assertOnlyStates(db: Queryable, edits: readonly Edit[]): Promise<void> {
  for (const [i, edit] of edits.entries()) {
    const now = edit.kind === 'sighting' && edit.value ? await sightings.find(db, edit.id) : undefined;
    if (now && isDeepStrictEqual({ ...now.value, state: null }, { ...edit.value, state: null })) continue;
    throw new Refused('not-allowed', 'You are a reviewer of this project: you approve, and write notes.', [
      { path: `edits.${i}`, message: 'is more than the state of a sighting' },
    ]);
  }
}
