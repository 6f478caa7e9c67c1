// A look from its upload to the rendered file, against what ffmpeg's own filters make of the same table.
import { execFileSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ChangeId, CubeFile, ProjectLook } from '@mellow/contract';
import { clfText, cubeOf, cubeText, NEUTRAL_CDL } from '@mellow/core';
import { startHarness, type Harness } from '../testing/harness.ts';
import { renderedFile } from '../testing/rendering.ts';
import { upload } from '../testing/uploading.ts';
import { words } from '../media/words.ts';

const work = mkdtempSync(join(tmpdir(), 'mellow-look-'));
let h: Harness;
let projectId: string;
let shotId: string;
let colourwayId: string;
const bent = cubeOf('Evening', 9, (rgb) => {
  const [r, g, b] = [rgb[0]!, rgb[1]!, rgb[2]!];
  rgb[0] = 0.9 * r * r + 0.1 * b;
  rgb[1] = Math.sqrt(g) * 0.8 + 0.15 * r * b;
  rgb[2] = b * (1 - 0.3 * r) + 0.05 * g;
});
const file = (name: string) => join(work, name);

beforeAll(async () => {
  h = await startHarness({ workers: true });
  execFileSync('ffmpeg', [
    ...words('-v error -y -f lavfi -i testsrc2=size=320x180:rate=24 -frames:v 2 -vf'),
    'scale=160:90:flags=area,format=gbrp16le,setsar=1',
    ...words('-c:v ffv1'),
    file('card.mkv'),
  ]);
  writeFileSync(file('evening.cube'), cubeText(bent));
  projectId = (await h.call('createProject', {}, { name: 'Look' })).id;
  shotId = (await upload(h, projectId, [file('card.mkv')])).body.shotIds[0]!;
  colourwayId = (await h.call('getProject', { projectId })).colourways[0]!.value.id;
});
afterAll(async () => {
  await h.close();
  rmSync(work, { recursive: true, force: true });
});

const codesIn = (input: string, filter: string) => {
  const args = [...words('-v error -i'), input, '-vf', filter, ...words('-f rawvideo -pix_fmt gbrp16le -')];
  const bytes = execFileSync('ffmpeg', args, { maxBuffer: 1e8 });
  return new Uint16Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length));
};
const brought = async (path: string) =>
  (await upload(h, projectId, [path], { route: 'cubes' })) as unknown as {
    status: number;
    body: CubeFile & { detail?: string };
  };
async function setLook(look: ProjectLook | null): Promise<void> {
  const { value, revision } = (await h.call('getProject', { projectId })).project;
  const edits = [{ kind: 'project' as const, id: value.id, revision, value: { ...value, look } }];
  await h.call('change', { projectId }, { id: randomUUID() as ChangeId, label: 'Look', edits });
}
const asked = (withLook: boolean) =>
  ({ shotIds: [shotId], colourwayIds: [colourwayId], preset: 'ffv1', withLook }) as never;
const rendered = (withLook: boolean) => renderedFile(h, projectId, asked(withLook), work);

describe('a table', () => {
  it('is kept once and comes back as it went in', async () => {
    const { status, body } = await brought(file('evening.cube'));
    expect([status, body]).toEqual([201, { sha256: body.sha256, name: 'Evening', kind: '3D', size: 9 }]);
    expect((await brought(file('evening.cube'))).body.sha256).toBe(body.sha256);
    const back = await fetch(`${h.url}/api/cubes/${body.sha256}`, { headers: { connection: 'close' } });
    expect(await back.text()).toBe(cubeText(bent));
  });
  it('that breaks off is refused with the line, and nothing is kept', async () => {
    const half = cubeText(bent).split('\n').slice(0, 30).join('\n');
    writeFileSync(file('half.cube'), half);
    const { status, body } = await brought(file('half.cube'));
    expect([status, body.detail]).toEqual([
      400,
      '“half.cube” is no look-up table. Line 30: the table ends after 28 of 729 entries.',
    ]);
  });
  it('under another name than a hash is not to be had', async () => {
    for (const name of ['x', '..%2f..%2fetc%2fpasswd', 'a'.repeat(64)])
      expect((await fetch(`${h.url}/api/cubes/${name}`, { headers: { connection: 'close' } })).status).toBe(404);
  });
});

describe('a render', () => {
  it('through a look there is none of is refused', async () => {
    await setLook(null);
    expect((await h.problem('render', { projectId }, asked(true))).detail).toMatch('None of these shots has a look');
  });
  it('is without the look unless it is asked for, and then what ffmpeg’s lut3d makes of it, to a code', async () => {
    const { body: cube } = await brought(file('evening.cube'));
    await setLook({ isOn: true, cdl: null, curves: null, cube });
    const [plain, seen] = [await rendered(false), await rendered(true)];
    const source = codesIn(file('card.mkv'), 'null');
    expect(codesIn(plain, 'null')).toEqual(source);
    const wanted = codesIn(file('card.mkv'), `lut3d=${file('evening.cube')}:interp=tetrahedral`);
    const found = codesIn(seen, 'null');
    expect(found.length).toBe(wanted.length);
    let most = 0;
    for (let i = 0; i < found.length; i++) most = Math.max(most, Math.abs(found[i]! - wanted[i]!));
    expect(most).toBeLessThanOrEqual(1);
  });
  it('takes the CDL before the table', async () => {
    const { body: cube } = await brought(file('evening.cube'));
    await setLook({ isOn: false, cdl: { ...NEUTRAL_CDL, slope: [0.5, 0.5, 0.5] }, curves: null, cube });
    const found = codesIn(await rendered(true), 'null');
    const half = 'colorchannelmixer=rr=0.5:gg=0.5:bb=0.5';
    const wanted = codesIn(file('card.mkv'), `${half},lut3d=${file('evening.cube')}:interp=tetrahedral`);
    let most = 0;
    for (let i = 0; i < found.length; i++) most = Math.max(most, Math.abs(found[i]! - wanted[i]!));
    // that filter halves to whole codes, and cuts off what is left over
    expect(most).toBeLessThanOrEqual(2);
  });
  it('is through the look of a shot’s own where there is one, a table of the Common LUT Format too', async () => {
    await setLook({ isOn: true, cdl: { ...NEUTRAL_CDL, slope: [0, 0, 0] }, curves: null, cube: null });
    writeFileSync(file('evening.clf'), clfText(bent, 'urn:uuid:2'));
    const { body: cube } = await brought(file('evening.clf'));
    expect(cube).toMatchObject({ name: 'Evening', kind: 'CLF', size: 1 });
    const { value, revision } = (await h.call('getProject', { projectId })).shots[0]!;
    const own = { ...value, look: { cdl: null, curves: null, cube } };
    const edits = [{ kind: 'shot' as const, id: value.id, revision, value: own }];
    await h.call('change', { projectId }, { id: randomUUID() as ChangeId, label: 'Look', edits });
    const found = codesIn(await rendered(true), 'null');
    const wanted = codesIn(file('card.mkv'), `lut3d=${file('evening.cube')}:interp=tetrahedral`);
    let most = 0;
    for (let i = 0; i < found.length; i++) most = Math.max(most, Math.abs(found[i]! - wanted[i]!));
    expect(most).toBeLessThanOrEqual(1);
    // it is enough for a review too, which is refused where there is none
    await setLook(null);
    const review = { name: 'R', shotIds: [shotId], colourwayIds: [colourwayId], daysValid: 1, withLook: true } as never;
    await h.call('sendReview', { projectId }, review);
    const now = (await h.call('getProject', { projectId })).shots[0]!;
    const bare = { kind: 'shot' as const, id: value.id, revision: now.revision, value: { ...value, look: null } };
    await h.call('change', { projectId }, { id: randomUUID() as ChangeId, label: 'No look', edits: [bare] });
    expect((await h.problem('sendReview', { projectId }, review)).detail).toMatch('None of these shots has a look');
  });
});
