// Tracks through the API: a window that glides over a photograph, so that the motion of every frame is known exactly.
import { execFileSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import {
  type ChangeId,
  type Edit,
  type PieceId,
  type RecipeId,
  type RunResult,
  type ShotId,
  type SightingId,
  type Track,
  type TrackId,
  NO_FINER,
} from '@mellow/contract';
import { deliveryFolder } from '../media/store.ts';
import { startHarness, until, type Harness } from '../testing/harness.ts';
import { words } from '../media/words.ts';

const [W, H, FRAMES] = [320, 240, 14];
let h: Harness;
let projectId: string;
let shotId: ShotId;
const trackId = randomUUID() as TrackId;
const work = mkdtempSync(join(tmpdir(), 'mellow-track-'));
const corner = (x: number, y: number) => ({ x, y, inX: 0, inY: 0, outX: 0, outY: 0 });
const box = (x0: number, y0: number, x1: number, y1: number) => ({
  form: 'spline' as const,
  points: [corner(x0, y0), corner(x1, y0), corner(x1, y1), corner(x0, y1)],
});
const change = (label: string, ...edits: Edit[]) =>
  h.call('change', { projectId }, { id: randomUUID() as ChangeId, label, edits });
const track = (more: Partial<Track> = {}): Track => ({
  id: trackId,
  projectId: projectId as Track['projectId'],
  shotId,
  name: 'Cup',
  referenceFrame: 5,
  region: box(60, 60, 200, 180),
  freedom: { move: true, turn: false, scale: false, shear: false, perspective: false },
  holdOuts: [],
  manual: [],
  runs: [],
  ...more,
});
const idle = () =>
  until('the tracks', async () =>
    (await h.call('listJobs', { projectId })).every(
      (j) => j.kind !== 'track' || !['queued', 'running'].includes(j.state),
    ),
  );
const framesOf = (runs: RunResult[]) => runs.flatMap((r) => r.frames).sort((a, b) => a.frame - b.frame);

beforeAll(async () => {
  h = await startHarness({ workers: true });
  // frame n shows the photograph from (20 + 6 n, 30 + 4 n) on: what is seen moves by (−6, −4) a frame
  execFileSync('ffmpeg', [
    ...words('-v error -y -loop 1 -framerate 24 -i'),
    join(import.meta.dirname, '../../../../demo/photographs/coffee.png'),
    '-vf',
    `crop=${W}:${H}:x='20+6*n':y='30+4*n',format=gbrp`,
    '-frames:v',
    String(FRAMES),
    '-c:v',
    'ffv1',
    join(work, 'glide.mkv'),
  ]);
  projectId = (await h.call('createProject', {}, { name: 'Tracks' })).id;
  const form = new FormData();
  form.append('files', new Blob([readFileSync(join(work, 'glide.mkv'))]), 'glide.mkv');
  shotId = (
    (await (await fetch(`${h.url}/api/projects/${projectId}/media`, { method: 'POST', body: form })).json()) as {
      shotIds: ShotId[];
    }
  ).shotIds[0]!;
});
afterAll(async () => {
  await h.close();
  rmSync(work, { recursive: true, force: true });
});

it('finds the motion of every frame both ways, to a twentieth of a pixel, as one undoable step', async () => {
  await change('Draw Cup', { kind: 'track', id: trackId, revision: null, value: track() });
  const { change: step } = await h.call(
    'track',
    { projectId },
    {
      trackId,
      spans: [
        { from: 5, to: FRAMES - 1 },
        { from: 5, to: 0 },
      ],
    },
  );
  expect(step.history.undo).toBe('Track Cup: 5 → 13, 5 → 0');
  await idle();
  const runs = await h.call('listTracks', { projectId });
  const frames = framesOf(runs);
  expect(frames.map((f) => f.frame)).toEqual([0, 1, 2, 3, 4, 6, 7, 8, 9, 10, 11, 12, 13]);
  for (const { frame, motion, confidence } of frames) {
    expect(Math.abs(motion[2] + 6 * (frame - 5))).toBeLessThan(0.05);
    expect(Math.abs(motion[5] + 4 * (frame - 5))).toBeLessThan(0.05);
    expect([motion[0], motion[1], motion[3], motion[4]]).toEqual([1, 0, 0, 1]);
    expect(confidence).toBeGreaterThan(0.8);
  }
  expect(runs.every((r) => r.stopped === null)).toBe(true);
});

it('takes a track back with undo and brings its frames again with redo', async () => {
  await h.call('undo', { projectId }, { id: randomUUID() as ChangeId });
  expect(await h.call('listTracks', { projectId })).toEqual([]);
  await h.call('redo', { projectId }, { id: randomUUID() as ChangeId });
  expect(framesOf(await h.call('listTracks', { projectId }))).toHaveLength(13);
});

it('renders a follower where the track is, frame by frame', async () => {
  const document = await h.call('getProject', { projectId });
  const [pieceId, colourwayId] = [randomUUID() as PieceId, document.colourways[0]!.value.id];
  const [sightingId, recipeId] = [randomUUID() as SightingId, randomUUID() as RecipeId];
  const own = document.project.value.id;
  await change(
    'Follow',
    {
      kind: 'piece',
      id: pieceId,
      revision: null,
      value: { id: pieceId, projectId: own, name: 'Cup', kind: 'prop', position: 0, partOf: null },
    },
    {
      kind: 'sighting',
      id: sightingId,
      revision: null,
      value: {
        id: sightingId,
        projectId: own,
        pieceId,
        shotId,
        cleanUp: null,
        spill: null,
        animated: {},
        steadyFrames: 0,
        trims: {},
        body: null,
        state: 'rough',
        layers: [
          {
            id: randomUUID(),
            name: 'Box',
            kind: 'shape',
            on: true,
            mode: 'add',
            invert: false,
            strength: 1,
            geometry: box(100, 90, 160, 150),
            feather: { innerPx: 0, outerPx: 0, falloff: 'linear' },
            follow: { trackId, move: true, turn: true, scale: true, shear: true, perspective: true },
          },
        ],
      },
    },
    {
      // black inside the box, and only from frame 3 on: a hard switch
      kind: 'recipe',
      id: recipeId,
      revision: null,
      value: {
        id: recipeId,
        projectId: own,
        pieceId,
        colourwayId,
        match: { long: 1, middle: 1, short: 1 },
        repaint: { on: false, sheen: 1 },
        finer: NO_FINER,
        shift: { exposureStops: -8, hueDeg: 0, saturation: 1, density: 2 },
        strength: 1,
        animated: {
          [shotId]: {
            strength: [
              { frame: 0, value: 0, ease: 'hold' },
              { frame: 3, value: 1, ease: 'hold' },
            ],
          },
        },
      },
    },
  );
  const [delivery] = await h.call(
    'render',
    { projectId },
    { shotIds: [shotId], colourwayIds: [colourwayId], preset: 'ffv1' },
  );
  await until(
    'the render',
    async () =>
      (await h.call('listDeliveries', { projectId })).find((d) => d.id === delivery!.id)?.job.state === 'done',
  );
  const grey = (file: string) =>
    execFileSync('ffmpeg', ['-v', 'error', '-i', file, '-f', 'rawvideo', '-pix_fmt', 'gray', '-'], { maxBuffer: 1e8 });
  const [before, after] = [
    grey(join(work, 'glide.mkv')),
    grey(join(deliveryFolder(h.store, delivery!.id), delivery!.fileName)),
  ];
  for (let f = 0; f < FRAMES; f++) {
    let [sx, sy, n] = [0, 0, 0];
    for (let i = 0; i < W * H; i++)
      if (before[f * W * H + i]! - after[f * W * H + i]! > 6) {
        sx += i % W;
        sy += Math.floor(i / W);
        n++;
      }
    if (f < 3) expect(n).toBe(0);
    else {
      expect(n).toBeGreaterThan(3000);
      // the darkened box is centred where the track carries the middle of the drawn one
      expect(Math.abs(sx / n + 0.5 - (130 - 6 * (f - 5)))).toBeLessThan(1.5);
      expect(Math.abs(sy / n + 0.5 - (120 - 4 * (f - 5)))).toBeLessThan(1.5);
    }
  }
});

it('renders a matte that drops out on one frame as steady as its neighbours when it is steadied', async () => {
  const document = await h.call('getProject', { projectId });
  const { value, revision } = document.sightings.find((s) => s.value.shotId === shotId)!;
  const layers = value.layers.map((l) => ({
    ...l,
    animated: {
      strength: [
        { frame: 0, value: 1, ease: 'hold' as const },
        { frame: 7, value: 0, ease: 'hold' as const },
        { frame: 8, value: 1, ease: 'hold' as const },
      ],
    },
  })) as typeof value.layers;
  const darkened = async (steadyFrames: number): Promise<number[]> => {
    const now = (await h.call('getProject', { projectId })).sightings.find((s) => s.value.id === value.id)!;
    await change('Steady', {
      kind: 'sighting',
      id: value.id,
      revision: now.revision,
      value: { ...value, layers, steadyFrames },
    });
    const [delivery] = await h.call(
      'render',
      { projectId },
      { shotIds: [shotId], colourwayIds: [document.colourways[0]!.value.id], preset: 'ffv1' },
    );
    await until(
      'the render',
      async () =>
        (await h.call('listDeliveries', { projectId })).find((d) => d.id === delivery!.id)?.job.state === 'done',
    );
    const grey = (file: string) =>
      execFileSync('ffmpeg', ['-v', 'error', '-i', file, '-f', 'rawvideo', '-pix_fmt', 'gray', '-'], {
        maxBuffer: 1e8,
      });
    const [before, after] = [
      grey(join(work, 'glide.mkv')),
      grey(join(deliveryFolder(h.store, delivery!.id), delivery!.fileName)),
    ];
    return Array.from({ length: FRAMES }, (_, f) => {
      let n = 0;
      for (let i = f * W * H; i < (f + 1) * W * H; i++) if (before[i]! - after[i]! > 6) n++;
      return n;
    });
  };
  expect(revision).toBeGreaterThan(0);
  const [open, steady] = [await darkened(0), await darkened(1)];
  expect(open[7]).toBe(0);
  expect(open[6]).toBeGreaterThan(3000);
  expect(steady[7]! / steady[6]!).toBeGreaterThan(0.95);
  expect(steady[6]! / open[6]!).toBeGreaterThan(0.98);
});

it('stops on a blank region and says why; refuses frames that are not there and tracks it does not know', async () => {
  const blank = randomUUID() as TrackId;
  await change('Draw Blank', {
    kind: 'track',
    id: blank,
    revision: null,
    value: track({ id: blank, name: 'Blank', region: box(20, 20, 22, 22) }),
  });
  await h.call('track', { projectId }, { trackId: blank, spans: [{ from: 5, to: 9 }] });
  await idle();
  const stopped = (await h.call('listTracks', { projectId })).flatMap((r) => (r.stopped ? [r.stopped] : []));
  expect(stopped).toEqual([{ frame: 6, reason: 'no texture' }]);
  expect((await h.problem('track', { projectId }, { trackId, spans: [{ from: 5, to: 99 }] })).detail).toContain('13');
  expect((await h.problem('track', { projectId }, { trackId: randomUUID(), spans: [{ from: 0, to: 1 }] })).code).toBe(
    'not-found',
  );
  expect((await h.problem('track', { projectId }, { trackId, spans: [{ from: 4, to: 4 }] })).code).toBe(
    'invalid-input',
  );
});

it('refuses keyframes out of order or out of range, and paths whose points do not match', async () => {
  const document = await h.call('getProject', { projectId });
  const { value, revision } = document.sightings[0]!;
  const layer = value.layers[0]!;
  const edit = (changed: object) =>
    h.problem(
      'change',
      { projectId },
      {
        id: randomUUID(),
        label: 'Bad',
        edits: [{ kind: 'sighting', id: value.id, revision, value: { ...value, layers: [{ ...layer, ...changed }] } }],
      },
    );
  const key = (frame: number, v: unknown) => ({ frame, value: v, ease: 'linear' });
  expect((await edit({ animated: { strength: [key(5, 1), key(2, 0)] } })).detail).toContain('ascending');
  const out = await edit({ animated: { strength: [key(2, 0), key(5, 1.5)] } });
  expect(out).toMatchObject({ code: 'invalid-input' });
  expect(out.detail).toContain('strength on frame 5');
  expect(
    (
      await edit({
        paths: [key(0, box(0, 0, 9, 9)), key(4, { form: 'spline', points: box(0, 0, 9, 9).points.slice(1) })],
      })
    ).detail,
  ).toContain('as many points');
  expect((await h.call('getProject', { projectId })).sightings[0]!.revision).toBe(revision);
});
