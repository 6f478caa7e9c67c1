// The film as it was finished once, by the interface's own commands (`npm run demo:finish`), kept as a file with names
// in place of the ids that every loading makes anew.
import { randomUUID } from 'node:crypto';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  Recipe,
  RunResult,
  Shot,
  Sighting,
  Track,
  type ChangeId,
  type Edit,
  type ProjectDocument,
  type ProjectId,
} from '@mellow/contract';
import type { Author } from '../packages/server/src/db/author.ts';
import { applyChange } from '../packages/server/src/db/changes.ts';
import { projectDocument } from '../packages/server/src/db/projects.ts';
import type { openPool } from '../packages/server/src/db/pool.ts';
import { insertRun, saveFrames } from '../packages/server/src/db/trackRuns.ts';

/** Whose the demo's own changes are. */
export const DEMO: Author = { id: null, name: 'demo' };
const FILE = join(import.meta.dirname, 'finished.json');
interface Finished {
  lights: Shot[];
  sightings: Sighting[];
  tracks: Track[];
  recipes: Recipe[];
  runs: RunResult[];
}
/** The file's content; throws where it does not hold what it should. */
function finishedFrom(text: string): Finished {
  const { lights, sightings, tracks, recipes, runs } = JSON.parse(text) as Record<keyof Finished, unknown>;
  return {
    lights: Shot.array().parse(lights),
    sightings: Sighting.array().parse(sightings),
    tracks: Track.array().parse(tracks),
    recipes: Recipe.array().parse(recipes),
    runs: RunResult.array().parse(runs),
  };
}

/** What stands in the file for each id of a project. */
function namesOf(document: ProjectDocument): [id: string, name: string][] {
  const named = (kind: string, rows: readonly { value: { id: string; name: string } }[]) =>
    rows.map(({ value }): [string, string] => [value.id, `${kind}: ${value.name}`]);
  return [
    [document.project.value.id, 'project'],
    ...named('shot', document.shots),
    ...named('piece', document.pieces),
    ...named('colourway', document.colourways),
    ...document.shots.map(({ value }): [string, string] => [value.mediaId, `media: ${value.name}`]),
  ];
}
const replaced = (text: string, pairs: readonly (readonly [string, string])[]) =>
  pairs.reduce((out, [from, to]) => out.replaceAll(`"${from}"`, `"${to}"`), text);
const values = <T>(rows: readonly { value: T }[]): T[] => rows.map((r) => r.value);

/** Writes a project's work to the file. */
export function keepFinished(document: ProjectDocument, runs: readonly RunResult[]): void {
  const used = new Set(document.tracks.flatMap((t) => t.value.runs.map((r) => r.id)));
  const finished: Finished = {
    lights: values(document.shots).filter((s) => s.light !== null),
    sightings: values(document.sightings),
    tracks: values(document.tracks),
    recipes: values(document.recipes),
    runs: runs.filter((r) => used.has(r.runId)),
  };
  // a line for each thing: a change of one is a change of one line
  const lines = Object.entries(finished as unknown as Record<string, readonly object[]>).map(
    ([key, rows]) => `${JSON.stringify(key)}: [\n${rows.map((row) => JSON.stringify(row)).join(',\n')}\n]`,
  );
  writeFileSync(FILE, `${replaced(`{${lines.join(',\n')}}`, namesOf(document))}\n`);
}

/** Does all of that work in a project with the same shots, pieces and colourways. */
export async function putFinished(pool: ReturnType<typeof openPool>, projectId: ProjectId): Promise<void> {
  const document = await projectDocument(pool, projectId);
  const ids = namesOf(document).map(([id, name]) => [name, id] as const);
  const finished = finishedFrom(replaced(readFileSync(FILE, 'utf8'), ids));
  for (const { runId, frames } of finished.runs) {
    await insertRun(pool, runId, projectId);
    await saveFrames(pool, runId, frames);
  }
  const change = (label: string, edits: Edit[]) =>
    applyChange(pool, projectId, { id: randomUUID() as ChangeId, label, edits }, DEMO);
  const added = (kind: Edit['kind'], rows: readonly { id: string }[]) =>
    rows.map((value) => ({ kind, id: value.id, revision: null, value }) as unknown as Edit);
  await change('Track the pieces', added('track', finished.tracks));
  await change('Isolate the pieces', added('sighting', finished.sightings));
  await change(
    'Take the shots’ lights',
    finished.lights.map((value): Edit => {
      const { revision } = document.shots.find((s) => s.value.id === value.id)!;
      return { kind: 'shot', id: value.id, revision, value };
    }),
  );
  await change('Match the pieces', added('recipe', finished.recipes));
}
