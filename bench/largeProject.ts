// A project as large as they get: `npm run large`. A thousand sightings with ten keyframes each, and a log of fifty
// thousand entries. Told: how long an edit, opening the project, and taking a step back wait.
import { execFileSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { monitorEventLoopDelay } from 'node:perf_hooks';
import type { ChangeId, Edit, ProjectDocument } from '@mellow/contract';
import { words } from '../packages/server/src/media/words.ts';
import { startHarness } from '../packages/server/src/testing/harness.ts';
import { upload } from '../packages/server/src/testing/uploading.ts';
import { idleThread, longestMs } from './measures.ts';

const [PIECES, SHOTS, KEYFRAMES, ENTRIES, TIMES] = [10, 100, 10, 50_000, 40];
/** Median and longest of so many, ms. */
async function timed(act: (i: number) => Promise<unknown>): Promise<string> {
  const waits: number[] = [];
  for (let i = 0; i < TIMES; i++) {
    const began = performance.now();
    await act(i);
    waits.push(performance.now() - began);
  }
  waits.sort((a, b) => a - b);
  return `median ${Math.round(waits[TIMES / 2]!)} ms, longest ${Math.round(waits.at(-1)!)} ms`;
}

// without workers: what they measure of a thousand sightings meanwhile is no part of it
const h = await startHarness();
const work = mkdtempSync(join(tmpdir(), 'mellow-large-'));
const idle = idleThread();
try {
  const { id: projectId } = await h.call('createProject', {}, { name: 'Large' });
  const film = join(work, 'film.mkv');
  execFileSync('ffmpeg', [...words('-v error -f lavfi -i testsrc2=size=96x54:rate=24 -frames:v 2 -c:v ffv1'), film]);
  await upload(h, projectId, [film]);
  const [filmed] = (await h.call('getProject', { projectId })).shots;
  const change = (label: string, edits: object[]) =>
    h.call('change', { projectId }, { id: randomUUID() as ChangeId, label, edits: edits as Edit[] });
  const fresh = (kind: string, value: { id: string }) => ({ kind, id: value.id, revision: null, value });

  const pieces = Array.from({ length: PIECES }, (_, position) => {
    return { id: randomUUID(), projectId, name: `Piece ${position}`, kind: 'prop', position, partOf: null };
  });
  const shots = Array.from({ length: SHOTS }, (_, position) => {
    return { ...filmed!.value, id: randomUUID(), name: `Shot ${position}`, position };
  });
  await change('Pieces', [...pieces.map((p) => fresh('piece', p)), ...shots.map((s) => fresh('shot', s))]);
  const strength = Array.from({ length: KEYFRAMES }, (_, n) => ({
    frame: 4 * n,
    value: n / KEYFRAMES,
    ease: 'linear',
  }));
  const ellipse = { form: 'ellipse', cx: 40, cy: 30, width: 20, height: 10, turnDeg: 0 };
  const feather = { innerPx: 2, outerPx: 2, falloff: 'smooth' };
  const layer = () => ({
    ...{ id: randomUUID(), name: 'Shape', kind: 'shape', on: true, mode: 'add', invert: false, strength: 1 },
    ...{ geometry: ellipse, feather, animated: { strength } },
  });
  for (const piece of pieces)
    await change(
      'Sightings',
      shots.map((shot) =>
        fresh('sighting', {
          id: randomUUID(),
          ...{ projectId, pieceId: piece.id, shotId: shot.id, layers: [layer()] },
        }),
      ),
    );
  await h.pool.query(
    `insert into change (id, project_id, person_id, who, label, edits, revisions, state)
      select gen_random_uuid(), c.project_id, c.person_id, c.who, c.label,
        jsonb_build_array(c.edits->0), jsonb_build_object(c.edits->0->>'id', 1), c.state
      from (select * from change where project_id = $1 order by seq limit 1) c, generate_series(1, $2)`,
    [projectId, ENTRIES],
  );
  await h.pool.query('analyze');

  const { sightings }: ProjectDocument = await h.call('getProject', { projectId });
  const keyframes = sightings.length * KEYFRAMES;
  const edit = async (i: number): Promise<void> => {
    const { value, revision } = sightings[i]!;
    const next = { ...value, state: value.state === 'rough' ? ('ready' as const) : ('rough' as const) };
    const { revisions } = await change('State', [{ kind: 'sighting', id: value.id, revision, value: next }]);
    sightings[i] = { value: next, revision: revisions[value.id]! };
  };
  // as a browser reads it: what the answer is held against in tests is no part of it
  const open = async () => (await fetch(`${h.url}/api/projects/${projectId}`)).arrayBuffer();
  const held = monitorEventLoopDelay({ resolution: 10 });
  held.enable();
  await idle.stalls();
  console.log(`${sightings.length} sightings, ${keyframes} keyframes, a log of ${ENTRIES} entries`);
  const stepBack = () => h.call('undo', { projectId }, { id: randomUUID() as ChangeId });
  for (const [what, act] of Object.entries({ 'an edit': edit, opening: open, 'a step back': stepBack })) {
    held.reset();
    await idle.stalls();
    const waits = await timed(act);
    const [own, byMachine] = [held.max / 1e6, longestMs(await idle.stalls())].map(Math.round);
    console.log(`${what}: ${waits}; event loop held for ${own} ms at most, by the machine for ${byMachine} ms`);
  }
} finally {
  await idle.end();
  await h.close();
  rmSync(work, { recursive: true });
}
