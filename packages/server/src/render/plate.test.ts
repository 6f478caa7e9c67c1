// A matte made elsewhere, by its luma and by its alpha channel, with an offset: what the render takes from it.
import { execFileSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { appendFileSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ChangeId, Delivery, Edit, MediaId } from '@mellow/contract';
import { deliveryFolder, mediaFolder } from '../media/store.ts';
import { startHarness, until, type Harness } from '../testing/harness.ts';
import { words } from '../media/words.ts';

const [W, H, FRAMES] = [96, 54, 6];
let h: Harness;
let projectId: string;
let shotId: string;
let plateId: MediaId;
const work = mkdtempSync(join(tmpdir(), 'mellow-plate-'));
const upload = async (route: string, file: string) => {
  const form = new FormData();
  form.append('files', new Blob([readFileSync(join(work, file))]), file);
  const response = await fetch(`${h.url}/api/projects/${projectId}/${route}`, { method: 'POST', body: form });
  return {
    status: response.status,
    body: (await response.json()) as { shotIds: string[]; mediaIds: MediaId[]; detail?: string },
  };
};

beforeAll(async () => {
  h = await startHarness({ workers: true });
  const lavfi = (source: string, file: string, ...args: string[]) =>
    execFileSync('ffmpeg', [
      ...words('-v error -y -f lavfi -i'),
      source,
      '-frames:v',
      String(FRAMES),
      ...args,
      join(work, file),
    ]);
  lavfi(`color=0x3080a0:size=${W}x${H}:rate=24,format=gbrp16le`, 'shot.mkv', '-c:v', 'ffv1');
  // frame n: luma white left of x = 8 + 12 n; alpha opaque above y = 6 + 8 n
  lavfi(
    `nullsrc=size=${W}x${H}:rate=24,format=rgba,geq=r='255*lt(X,8+12*N)':g='255*lt(X,8+12*N)':` +
      `b='255*lt(X,8+12*N)':a='255*lt(Y,6+8*N)'`,
    'plate.mov',
    '-c:v',
    'png',
  );
  projectId = (await h.call('createProject', {}, { name: 'Plates' })).id;
  shotId = (await upload('media', 'shot.mkv')).body.shotIds[0]!;
  const answer = await upload('plates', 'plate.mov');
  expect(answer.status).toBe(201);
  plateId = answer.body.mediaIds[0]!;
});
afterAll(async () => {
  await h.close();
  rmSync(work, { recursive: true, force: true });
});

it('a plate is listed with the project, but is no shot, and gets an alpha proxy', async () => {
  const document = await h.call('getProject', { projectId });
  expect(document.plates).toEqual([plateId]);
  expect(document.shots).toHaveLength(1);
  await until(
    'the plate’s proxies',
    async () => (await h.call('getProject', { projectId })).proxies[plateId]?.state === 'done',
  );
  for (const size of ['proxy', 'alpha'])
    expect((await fetch(`${h.url}/api/media/${plateId}/frames/${size}/0.png`)).status).toBe(200);
  expect((await fetch(`${h.url}/api/media/${document.shots[0]!.value.mediaId}/frames/alpha/0.png`)).status).not.toBe(
    200,
  );
});
it('what is not a video is refused, and no plate is added', async () => {
  execFileSync('sh', ['-c', `echo nonsense > ${join(work, 'bad.mov')}`]);
  const { status, body } = await upload('plates', 'bad.mov');
  expect(status).toBeGreaterThanOrEqual(400);
  expect(body.detail).toContain('bad.mov');
  expect((await h.call('getProject', { projectId })).plates).toHaveLength(1);
});

describe.each(['luma', 'alpha'] as const)('rendered through its %s', (channel) => {
  it.each([0, 2, -1])(
    'with an offset of %i frames, takes the frame that is meant, and nothing where there is none',
    async (offsetFrames) => {
      const document = await h.call('getProject', { projectId });
      const colourwayId = document.colourways[0]!.value.id;
      const [piece, sighting, recipe] = [randomUUID(), randomUUID(), randomUUID()];
      const layers = [
        {
          id: randomUUID(),
          name: 'Plate',
          kind: 'plate',
          on: true,
          mode: 'add',
          invert: false,
          strength: 1,
          mediaId: plateId,
          channel,
          offsetFrames,
        },
      ];
      const edits = [
        ...document.sightings.map((s) => ({ kind: 'sighting', id: s.value.id, revision: s.revision, value: null })),
        {
          kind: 'piece',
          id: piece,
          revision: null,
          value: {
            id: piece,
            projectId,
            name: `Plate ${channel} ${offsetFrames}`,
            kind: 'prop',
            position: document.pieces.length,
          },
        },
        {
          kind: 'sighting',
          id: sighting,
          revision: null,
          value: { id: sighting, projectId, pieceId: piece, shotId, layers, cleanUp: null, spill: null },
        },
        {
          kind: 'recipe',
          id: recipe,
          revision: null,
          value: {
            id: recipe,
            projectId,
            pieceId: piece,
            colourwayId,
            shift: { exposureStops: -1, hueDeg: 0, saturation: 1, density: 0 },
            strength: 1,
          },
        },
      ] as unknown as Edit[];
      await h.call('change', { projectId }, { id: randomUUID() as ChangeId, label: 'Plate', edits });
      const [asked] = await h.call(
        'render',
        { projectId },
        { shotIds: [shotId as never], colourwayIds: [colourwayId], preset: 'ffv1' },
      );
      const done = await until('the render', async () =>
        (await h.call('listDeliveries', { projectId })).find((d) => d.id === asked!.id && d.job.state === 'done'),
      );
      const raw = execFileSync(
        'ffmpeg',
        [
          '-v',
          'error',
          '-i',
          join(deliveryFolder(h.store, done.id), done.fileName),
          '-f',
          'rawvideo',
          '-pix_fmt',
          'gray16le',
          '-',
        ],
        { maxBuffer: 1e8 },
      );
      const codes = new Uint16Array(raw.buffer.slice(raw.byteOffset, raw.byteOffset + raw.length));
      const at = (frame: number, x: number, y: number) => codes[frame * W * H + y * W + x]!;
      for (let frame = 0; frame < FRAMES; frame++) {
        const n = frame + offsetFrames;
        const darker = (x: number, y: number) => at(frame, x, y) < at(0, W - 1, H - 1) * 0.9;
        const there = n >= 0 && n < FRAMES;
        const edge = channel === 'luma' ? 8 + 12 * n : 6 + 8 * n;
        // a pixel on either side of the plate's edge
        expect(channel === 'luma' ? darker(edge - 2, 50) : darker(90, edge - 2)).toBe(there);
        expect(channel === 'luma' ? darker(edge + 1, 50) : darker(90, edge + 1)).toBe(false);
      }
    },
  );
});

it('a plate that is no longer what was brought in stops a render', async () => {
  const document = await h.call('getProject', { projectId });
  const plate = document.media.find((m) => m.id === plateId)!;
  appendFileSync(join(mediaFolder(h.store, plate.sha256), plate.name), 'x');
  const asked = {
    shotIds: [shotId as never],
    colourwayIds: [document.colourways[0]!.value.id],
    preset: 'ffv1' as const,
  };
  const [{ id }] = (await h.call('render', { projectId }, asked)) as [Delivery];
  const { job } = await until('the render', async () =>
    (await h.call('listDeliveries', { projectId })).find((d) => d.id === id && d.job.state === 'failed'),
  );
  expect(job.message).toContain('“plate.mov” is no longer what was brought in');
});
