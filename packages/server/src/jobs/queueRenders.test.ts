// Renders of a shot in several colourways are one piece of work, as long as their pictures can be held at once.
import { execFileSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { ChangeId, Edit, ProjectDocument } from '@mellow/contract';
import { NEUTRAL_SHIFT } from '@mellow/core';
import { projectDocument } from '../db/projects.ts';
import { words } from '../media/words.ts';
import { boxed, type Boxed } from '../testing/boxed.ts';
import { startHarness, type Harness } from '../testing/harness.ts';
import { queueRenders } from './queueRenders.ts';

let h: Harness;
let made: Boxed;
const work = mkdtempSync(join(tmpdir(), 'mellow-queue-'));
beforeAll(async () => {
  h = await startHarness();
  const file = join(work, 'grey.mkv');
  execFileSync('ffmpeg', [
    ...words('-v error -y -f lavfi -i color=gray:size=64x48:rate=24 -frames:v 2 -c:v ffv1'),
    file,
  ]);
  const box = { cx: 32, cy: 24, width: 20, height: 20 };
  made = await boxed(h, 'Queue', file, box, NEUTRAL_SHIFT);
  const { projectId } = made;
  const edits = ['Second', 'Third'].map((name, i) => {
    const id = randomUUID();
    return { kind: 'colourway', id, revision: null, value: { id, projectId, name, position: i + 1 } };
  });
  const change = { id: randomUUID() as ChangeId, label: 'Colourways', edits: edits as unknown as Edit[] };
  await h.call('change', { projectId }, change);
});
afterAll(async () => {
  await h.close();
  rmSync(work, { recursive: true, force: true });
});

/** Queues the shot in all its colourways: how many of them each piece of work makes. */
async function atOnce(document: ProjectDocument): Promise<number[]> {
  const colourwayIds = document.colourways.map((c) => c.value.id);
  await h.pool.query(`delete from graphile_worker._private_jobs`);
  await queueRenders(h.pool, document, { shotIds: [made.shotId], colourwayIds, preset: 'ffv1' });
  const { rows } = await h.pool.query<{ n: number }>(
    `select json_array_length(payload -> 'ids') as n from graphile_worker._private_jobs
      where payload -> 'ids' is not null order by id`,
  );
  return rows.map((row) => row.n);
}

it('in all colourways at once, and 8K each by itself', async () => {
  const document = await projectDocument(h.pool, made.projectId);
  expect(await atOnce(document)).toEqual([3]);
  const media = document.media.map((m) => ({ ...m, width: 7680, height: 4320 }));
  expect(await atOnce({ ...document, media })).toEqual([1, 1, 1]);
});
