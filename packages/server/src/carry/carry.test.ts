// A selection carried through the API: a patch of one photograph glides over another, so that its mask is known.
import { execFileSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { ChangeId, Edit, PieceId, ScribbleLayer, ShotId, Sighting, SightingId, Stroke } from '@mellow/contract';
import { carryRunsOf } from '@mellow/contract';
import { maskOfBytes } from '@mellow/core';
import { words } from '../media/words.ts';
import { startHarness, until, type Harness } from '../testing/harness.ts';

const [W, H, FRAMES] = [320, 240, 9];
const [TOP, LEFT, SIDE] = [70, 60, 90];
/** By how many pixels the patch goes to the right each frame. */
const SPEED = 7;
let h: Harness;
let projectId: string;
let shotId: ShotId;
const sightingId = randomUUID() as SightingId;
const work = mkdtempSync(join(tmpdir(), 'mellow-carry-'));
const photograph = (name: string) => join(import.meta.dirname, '../../../../demo/photographs', name);

const stroke = (frame: number, sign: Stroke['sign'], ...points: [number, number][]): Stroke => ({
  sign,
  widthPx: 8,
  points,
  frame,
});
/** Strokes about the patch as it lies on a frame. */
const strokesOn = (frame: number): Stroke[] => {
  const x = LEFT + SPEED * frame;
  return [
    stroke(frame, 'in', [x + 15, TOP + 15], [x + SIDE - 15, TOP + 20], [x + 20, TOP + SIDE - 20], [x + 70, TOP + 70]),
    stroke(frame, 'out', [x - 15, TOP - 15], [x + SIDE + 15, TOP - 15]),
    stroke(frame, 'out', [x - 15, TOP + SIDE + 15], [x + SIDE + 15, TOP + SIDE + 15]),
    stroke(frame, 'out', [x - 15, TOP], [x - 15, TOP + SIDE]),
    stroke(frame, 'out', [x + SIDE + 15, TOP], [x + SIDE + 15, TOP + SIDE]),
  ];
};
const layer = (strokes: Stroke[]): ScribbleLayer => ({
  id: randomUUID(),
  name: 'Scribble 1',
  on: true,
  mode: 'add',
  invert: false,
  strength: 1,
  kind: 'scribble',
  strokes,
  carried: [],
});
const change = (label: string, ...edits: Edit[]) =>
  h.call('change', { projectId }, { id: randomUUID() as ChangeId, label, edits });
const stored = async () => {
  const document = await h.call('getProject', { projectId });
  const row = document.sightings.find((s) => s.value.id === sightingId)!;
  return { document, row, scribble: row.value.layers[0] as ScribbleLayer };
};
const put = async (next: ScribbleLayer) => {
  const { row } = await stored();
  await change('Strokes', {
    kind: 'sighting',
    id: sightingId,
    revision: row.revision,
    value: { ...row.value, layers: [next] },
  });
};
const carry = (layerId: string, anew = false) => h.call('carry', { projectId }, { sightingId, layerId, anew });
const idle = () =>
  until('the carrying', async () =>
    (await h.call('listJobs', { projectId })).every((j) => !['queued', 'running'].includes(j.state)),
  );
async function maskOn(runId: string, frame: number) {
  const response = await fetch(`${h.url}/api/projects/${projectId}/carry-runs/${runId}/${frame}`);
  expect(response.status).toBe(200);
  return maskOfBytes(new Uint8Array(await response.arrayBuffer()));
}
/** Overlap of a mask with where the patch is on a frame (IoU). */
async function overlap(runId: string, frame: number): Promise<number> {
  const { width, height, inside } = await maskOn(runId, frame);
  expect([width, height]).toEqual([W, H]);
  const x = LEFT + SPEED * frame;
  let [both, either] = [0, 0];
  inside.forEach((v, i) => {
    const [u, w] = [i % W, Math.floor(i / W)];
    const isTrue = u >= x && u < x + SIDE && w >= TOP && w < TOP + SIDE;
    if (v === 1 && isTrue) both++;
    if (v === 1 || isTrue) either++;
  });
  return both / either;
}

beforeAll(async () => {
  h = await startHarness({ workers: true });
  execFileSync('ffmpeg', [
    ...words('-v error -y -loop 1 -framerate 24 -i'),
    photograph('coffee.png'),
    ...words('-loop 1 -framerate 24 -i'),
    photograph('brick.png'),
    '-filter_complex',
    `[0]crop=${W}:${H}:20:120[ground];[1]crop=${SIDE}:${SIDE}:200:200[patch];` +
      `[ground][patch]overlay=x='${LEFT}+${SPEED}*floor(24*t+0.5)':y=${TOP}:format=gbrp,format=gbrp`,
    ...words(`-frames:v ${FRAMES} -c:v ffv1`),
    join(work, 'glide.mkv'),
  ]);
  projectId = (await h.call('createProject', {}, { name: 'Carried' })).id;
  const form = new FormData();
  form.append('files', new Blob([readFileSync(join(work, 'glide.mkv'))]), 'glide.mkv');
  const answer = await fetch(`${h.url}/api/projects/${projectId}/media`, { method: 'POST', body: form });
  shotId = ((await answer.json()) as { shotIds: ShotId[] }).shotIds[0]!;
  const pieceId = randomUUID() as PieceId;
  const value: Sighting = {
    id: sightingId,
    projectId: projectId as Sighting['projectId'],
    pieceId,
    shotId,
    layers: [layer(strokesOn(4))],
    cleanUp: null,
    spill: null,
    animated: {},
    steadyFrames: 0,
    trims: {},
    body: null,
    state: 'rough',
  };
  await change(
    'A piece',
    {
      kind: 'piece',
      id: pieceId,
      revision: null,
      value: { id: pieceId, projectId: value.projectId, name: 'Patch', kind: 'prop', partOf: null, position: 0 },
    },
    { kind: 'sighting', id: sightingId, revision: null, value },
  );
});
afterAll(async () => {
  await h.close();
  rmSync(work, { recursive: true, force: true });
});

it('carries a selection both ways as one undoable step, each frame on the patch to nineteen twentieths', async () => {
  const before = await stored();
  const { change: step, job } = await carry(before.scribble.id);
  expect(step?.history.undo).toBe('Carry Scribble 1 from frame 4');
  expect(job).toMatchObject({ kind: 'carry', total: FRAMES - 1 });
  await idle();
  const { document, scribble } = await stored();
  const [forth, back] = [scribble.carried![0]!, scribble.carried![1]!];
  expect(scribble.carried).toMatchObject([
    { from: 4, to: 8 },
    { from: 4, to: 0 },
  ]);
  expect([document.carried[forth.id], document.carried[back.id]].map((c) => c?.length)).toEqual([4, 4]);
  for (const certainty of [...document.carried[forth.id]!, ...document.carried[back.id]!])
    expect(certainty).toBeGreaterThan(0.9);
  for (const [run, frames] of [
    [forth, [5, 6, 7, 8]],
    [back, [3, 2, 1, 0]],
  ] as const)
    for (const frame of frames) expect(await overlap(run.id, frame), `frame ${frame}`).toBeGreaterThan(0.95);
});
it('has nothing to carry when nothing has changed, and carries anew when that is asked for', async () => {
  const { scribble } = await stored();
  expect(await carry(scribble.id)).toEqual({ change: null, job: null });
  expect((await carry(scribble.id, true)).job).not.toBeNull();
  await idle();
  expect((await stored()).scribble.carried).toHaveLength(4);
});
it('carries a correction up to the next frame with strokes, and leaves the other passes as they were', async () => {
  const { scribble } = await stored();
  await put({ ...scribble, strokes: [...scribble.strokes, ...strokesOn(7).slice(0, 1)] });
  const { job } = await carry(scribble.id);
  // 7 to 8 and 7 back to 4; the pass from 4 stands, for it went past 7
  expect(job?.total).toBe(4);
  await idle();
  const { scribble: now } = await stored();
  expect(now.carried!.slice(0, 4)).toEqual(scribble.carried);
  expect(now.carried!.slice(4)).toMatchObject([
    { from: 7, to: 8 },
    { from: 7, to: 4 },
  ]);
  expect(await overlap(now.carried!.at(-1)!.id, 5)).toBeGreaterThan(0.95);
});
it('measures what was carried on every frame', async () => {
  await until('the measurement', async () => {
    const [measured] = await h.call('listMeasurements', { projectId });
    return measured !== undefined && measured.measuredFrames === FRAMES && measured.fresh;
  });
});
it('refuses a layer that is not there, one without strokes on a frame, and passes of another project', async () => {
  await expect(carry(randomUUID())).rejects.toThrow(/404/);
  const { scribble } = await stored();
  const bare = scribble.strokes.map(({ frame: _frame, ...s }) => s);
  await put({ ...scribble, carried: [], strokes: bare });
  await expect(carry(scribble.id)).rejects.toThrow('has no stroke that belongs to a frame');
  await put(scribble);
  const other = await h.call('createProject', {}, { name: 'Another' });
  const { row } = await stored();
  await expect(
    h.call('change', { projectId: other.id }, {
      id: randomUUID() as ChangeId,
      label: 'Foreign',
      edits: [{ kind: 'sighting', id: randomUUID() as SightingId, revision: null, value: row.value as never }],
    } as never),
  ).rejects.toThrow();
  const elsewhere = await fetch(`${h.url}/api/projects/${other.id}/carry-runs/${scribble.carried![0]!.id}/5`);
  expect(elsewhere.status).toBe(404);
  const unknown = await fetch(`${h.url}/api/projects/${projectId}/carry-runs/${scribble.carried![0]!.id}/77`);
  expect(unknown.status).toBe(404);
});
it('goes along into a copy of the project', async () => {
  const copy = await h.call('duplicateProject', { projectId }, {} as never);
  const document = await h.call('getProject', { projectId: copy.id });
  const runs = carryRunsOf(document.sightings[0]!.value.layers);
  const own = new Set(carryRunsOf((await stored()).row.value.layers).map((r) => r.id));
  expect(runs.length).toBe(own.size);
  for (const run of runs) {
    expect(own.has(run.id)).toBe(false);
    expect(document.carried[run.id]).toHaveLength(Math.abs(run.to - run.from));
  }
});
