// Cuts in footage over HTTP, from its upload on.
import { execFileSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { startHarness, until, type Harness } from '../testing/harness.ts';
import { upload } from '../testing/uploading.ts';
import { words } from './words.ts';

let h: Harness;
const work = mkdtempSync(join(tmpdir(), 'mellow-cuts-'));
beforeAll(async () => void (h = await startHarness({ workers: true })));
afterAll(async () => {
  await h.close();
  rmSync(work, { recursive: true, force: true });
});

it('are told when its small pictures are there, by the number of the first frame after each', async () => {
  const scene = (filter: string, frames: number) => `${filter}=size=128x72:rate=24,trim=end_frame=${frames}`;
  const scenes = [scene('testsrc2', 14), scene('smptebars', 9), scene('mandelbrot', 20)];
  const graph = `${scenes.map((s, i) => `${s}[s${i}]`).join(';')};[s0][s1][s2]concat=n=3`;
  execFileSync('ffmpeg', [
    ...words('-v error -y -filter_complex'),
    graph,
    ...words('-c:v ffv1 -pix_fmt gbrp'),
    join(work, 'three.mkv'),
  ]);
  const projectId = (await h.call('createProject', {}, { name: 'Reel' })).id;
  await h.pause();
  const mediaId = (await upload(h, projectId, [join(work, 'three.mkv')])).body.mediaIds[0]!;
  const early = await h.problem('footageCuts', { mediaId });
  expect([early.status, early.detail]).toEqual([409, expect.stringContaining('still being made')]);
  await h.resume();
  await until('the proxies', async () => {
    const { proxies } = await h.call('getProject', { projectId });
    return proxies[mediaId]?.state === 'done';
  });
  const cuts = await h.call('footageCuts', { mediaId });
  expect(cuts.map((c) => c.frame)).toEqual([14, 23]);
  for (const { certainty } of cuts) expect(certainty).toBeGreaterThan(0.5);
  expect((await h.problem('footageCuts', { mediaId: randomUUID() })).code).toBe('not-found');
});
