// Files that were spoilt on their way, or made to be: whatever comes is taken in whole or refused by name and reason.
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { Problem } from '@mellow/contract';
import { startHarness, type Harness } from '../testing/harness.ts';
import { words } from './words.ts';

/** Files of each kind; MELLOW_FUZZ_RUNS for a long run. */
const RUNS = Number(process.env.MELLOW_FUZZ_RUNS ?? 8);
const SEED = Number(process.env.MELLOW_FUZZ_SEED ?? 20_261_129);

const work = mkdtempSync(join(tmpdir(), 'mellow-spoilt-'));
const ffmpeg = (...args: string[]) => execFileSync('ffmpeg', ['-v', 'error', '-y', ...args], { cwd: work });
const whole: Record<string, Buffer> = {};
let h: Harness;
let projectId: string;
beforeAll(async () => {
  h = await startHarness();
  projectId = (await h.call('createProject', {}, { name: 'Film' })).id;
  const picture = words('-f lavfi -i testsrc2=size=96x54:rate=24');
  ffmpeg(...picture, ...words('-frames:v 4 -c:v libx264 -pix_fmt yuv420p a.mp4'));
  ffmpeg(...picture, ...words('-frames:v 4 -c:v ffv1 -g 1 a.mkv'));
  ffmpeg(...picture, ...words('-frames:v 4 -c:v prores_ks a.mov'));
  for (const still of ['a.png', 'a.tif', 'a.dpx', 'a.exr', 'a.jpg'])
    ffmpeg(
      ...picture,
      ...words('-frames:v 1 -update 1'),
      ...(still === 'a.exr' ? ['-pix_fmt', 'gbrpf32le'] : []),
      still,
    );
  for (const name of readdirSync(work)) whole[name] = readFileSync(join(work, name));
  const zip = await fetch(`${h.url}/api/projects/${projectId}/archive`);
  whole['a.zip'] = Buffer.from(await zip.arrayBuffer());
  const rows = Array.from({ length: 8 }, (_, i) => [i & 1, (i >> 1) & 1, i >> 2].join(' '));
  whole['a.cube'] = Buffer.from(`LUT_3D_SIZE 2\n${rows.join('\n')}\n`);
});
afterAll(async () => {
  await h.close();
  rmSync(work, { recursive: true });
});

/** Bytes changed here and there, a piece cut out or doubled, the end missing. */
const spoilt = (bytes: Buffer): fc.Arbitrary<Buffer> => {
  const at = fc.nat(bytes.length - 1);
  return fc.oneof(
    fc.array(fc.tuple(at, fc.nat(255)), { minLength: 1, maxLength: 20 }).map((changes) => {
      const copy = Buffer.from(bytes);
      for (const [i, byte] of changes) copy[i] = byte;
      return copy;
    }),
    at.map((end) => bytes.subarray(0, end)),
    fc
      .tuple(at, at)
      .map(([a, b]) => Buffer.concat([bytes.subarray(0, Math.min(a, b)), bytes.subarray(Math.max(a, b))])),
    fc
      .tuple(at, at)
      .map(([a, b]) => Buffer.concat([bytes.subarray(0, Math.max(a, b)), bytes.subarray(Math.min(a, b))])),
  );
};
const ROUTES = { zip: '/api/archives', cube: 'cubes' } as Record<string, string>;

async function sent(name: string, bytes: Buffer): Promise<{ status: number; text: string }> {
  const form = new FormData();
  form.append('files', new Blob([new Uint8Array(bytes)]), name);
  const to = ROUTES[name.split('.').at(-1)!] ?? 'media';
  const path = to.startsWith('/') ? to : `/api/projects/${projectId}/${to}`;
  const answer = await fetch(h.url + path, { method: 'POST', body: form, headers: { connection: 'close' } });
  return { status: answer.status, text: await answer.text() };
}

it.each(['a.mp4', 'a.mkv', 'a.mov', 'a.png', 'a.tif', 'a.dpx', 'a.exr', 'a.jpg', 'a.zip', 'a.cube'])(
  '%s, spoilt, comes in whole or is refused with a reason',
  async (name) => {
    await fc.assert(
      fc.asyncProperty(spoilt(whole[name]!), async (bytes) => {
        const { status, text } = await sent(name, bytes);
        const told = `${status} ${text.slice(0, 600)}`;
        if (text.includes(h.store.root) || /\bat .*\.(ts|js):\d/.test(text))
          throw new Error(`tells of the inside: ${told}`);
        if (status === 201) return;
        const { code, detail } = Problem.parse(JSON.parse(text));
        if (!['refused-media', 'invalid-input', 'conflict', 'too-large'].includes(code)) throw new Error(told);
        expect(detail).not.toBe('');
      }),
      { numRuns: RUNS, seed: SEED, endOnFailure: true },
    );
  },
  600_000,
);
it('and nothing of them is left on its way in, nor in what can be opened', async () => {
  expect(readdirSync(h.store.staging)).toEqual([]);
  for (const { id } of await h.call('listProjects')) await h.call('getProject', { projectId: id });
});
