// Mattes that hold for whole shots, made as a colorist makes them: key, loose shape, a track, the shape follows it. Then
// every frame is computed as the renderer does and compared with the ground truth.
import { join } from 'node:path';
import { expect, test, type Page } from '@playwright/test';
import { frameMatte, knownMotions, makeTables, sightingAt, sourceFrame, type AnimatedSighting, type FoundFrame, type StoredTrack } from '../packages/core/src/index.ts';
import { Driver, H, TO_RGB, W, type Place } from './driving.ts';
import { compareMattes, readGbr16, readGrey } from './reading.ts';
import { startServer, type TestServer } from './server.ts';

const demo = join(import.meta.dirname, '../demo');
let server: TestServer;
test.beforeAll(async () => void (server = await startServer({ demo: true })));
test.afterAll(() => server.close());

/** Every frame is compared at half size: a whole shot in a fraction of the time, with the same stack. */
const [HALF_W, HALF_H] = [W / 2, H / 2];

/** A sighting's stored stack on every frame, tracks and keyframes resolved, against the truth. */
async function everyFrame(d: Driver, piece: string, shot: string, file: string, matte: string) {
  const sighting = (await d.sighting(piece, shot))!;
  const document = (await d.document()) as unknown as { tracks: { value: StoredTrack & { id: string } }[] };
  const runs = await d.json<{ runId: string; frames: FoundFrame[] }[]>('/tracks');
  const motions = new Map(document.tracks.map(({ value }) => [value.id, knownMotions(value, (id) => runs.find((r) => r.runId === id)?.frames ?? [])]));
  const render = { ...sighting, cleanUp: sighting.cleanUp ?? undefined, spill: undefined, shift: { exposureStops: 0, hueDeg: 0, saturation: 1, density: 0 }, strength: 1 } as unknown as AnimatedSighting;
  const truth = readGrey(join(demo, `truth/${file}.${matte}.mkv`), HALF_W, HALF_H);
  const tables = makeTables();
  const ious: number[] = [];
  // in parts: whole shots of 16-bit pictures would not fit in memory at once
  for (let from = 0; from < truth.length; from += 12) {
    const pictures = readGbr16(join(demo, `media/${file}.mp4`), HALF_W, HALF_H, `select=between(n\\,${from}\\,${from + 11}),${TO_RGB.replace('zscale=', `zscale=w=${HALF_W}:h=${HALF_H}:filter=bicubic:`)}`);
    pictures.forEach(([g, b, r], k) => {
      const { layers, cleanUp } = sightingAt(render, from + k, motions);
      const alpha = frameMatte(sourceFrame({ width: HALF_W, height: HALF_H, r: r!, g: g!, b: b! }, 'rec709', 0.5, tables), layers, cleanUp);
      ious.push(compareMattes(alpha, Float32Array.from(truth[from + k]!, (v) => v / 255)).iou);
    });
  }
  const mean = ious.reduce((a, b) => a + b, 0) / ious.length;
  console.log(`${piece}, ${shot}: ${ious.length} frames, IoU mean ${mean.toFixed(3)}, least ${Math.min(...ious).toFixed(3)}`);
  return { mean, least: Math.min(...ious), frames: ious.length };
}

interface Job {
  piece: string;
  shot: string;
  file: string;
  matte: string;
  /** The frame the track is drawn on. */
  frame: number;
  picks: [Place, Place][];
  numbers: [string, string][];
  cleanUp: [string, string][];
  loose: [Place, Place];
  region: [Place, Place];
  /** Kinds of motion the region does not make. */
  without: string[];
}
const section = (page: Page, name: string) => page.getByRole('radiogroup', { name: 'Section' }).or(page.getByLabel('Section')).getByText(name, { exact: true }).click();

async function makeTracked(d: Driver, page: Page, job: Job): Promise<void> {
  await d.piece(job.piece);
  await d.shot(job.shot);
  await d.goTo(job.frame);
  await d.shown();
  await section(page, 'Layer');
  await page.getByRole('button', { name: 'Pick a colour to add' }).click();
  for (const [from, to] of job.picks) await d.pick(from, to);
  await page.getByRole('button', { name: /^Rectangle/ }).click();
  await d.pick(...job.loose);
  await page.getByRole('region', { name: 'Range key 1' }).click();
  for (const [name, value] of job.numbers) await d.number(name, value);
  await section(page, 'Clean-up');
  for (const [name, value] of job.cleanUp) await d.number(name, value);
  await trackRegion(d, page, job);
  await follow(d, page, 'Rectangle 1');
}
async function trackRegion(d: Driver, page: Page, { region, without }: Pick<Job, 'region' | 'without'>): Promise<void> {
  await section(page, 'Track');
  await page.getByRole('button', { name: 'New track' }).click();
  await d.step('Draw Track 1', () => d.drag(...region));
  for (const part of without) await d.step(`Track 1: ${part} off`, () => page.getByRole('group', { name: 'The track may' }).getByText(part).click());
  await d.step(/^Track Track 1: /, () => page.getByRole('button', { name: 'Track both ways' }).click());
  await expect.poll(async () => (await d.json<{ kind: string; state: string }[]>('/jobs')).filter((j) => j.kind === 'track' && (j.state === 'queued' || j.state === 'running')).length, { timeout: 120_000 }).toBe(0);
}
async function follow(d: Driver, page: Page, layer: string): Promise<void> {
  await page.getByRole('region', { name: layer, exact: true }).click();
  await section(page, 'Track');
  await d.step(`${layer} follows Track 1`, async () => {
    await page.getByRole('combobox', { name: `${layer} follows` }).click();
    await page.locator('.ant-select-dropdown:not(.ant-select-dropdown-hidden) .ant-select-item').filter({ hasText: 'Track 1' }).click();
  });
}

const speckle: [string, string][] = [['Despeckle islands of the stack', '80'], ['Despeckle holes of the stack', '60']];
const TEAL: [string, string][] = [['hue lo', '165'], ['hue hi', '215'], ['hue softLo', '20'], ['hue softHi', '20'], ['chroma lo', '0.042'], ['chroma hi', '0.4'], ['chroma softLo', '0.03'], ['lightness lo', '0.08'], ['lightness hi', '0.97'], ['lightness softLo', '0.05']];
const JOBS: Job[] = [
  { piece: 'Lark suitcase', shot: '1 Platform', file: 'shot-1-platform', matte: 'suitcase', frame: 24, picks: [[[340, 420], [420, 520]]], numbers: TEAL, cleanUp: speckle, loose: [[190, 230], [570, 710]], region: [[290, 290], [545, 690]], without: ['perspective'] },
  { piece: 'Lark suitcase', shot: '2 Café', file: 'shot-2-cafe', matte: 'suitcase', frame: 5, picks: [[[380, 330], [404, 430]]], numbers: [['hue lo', '156'], ['hue hi', '200'], ['hue softLo', '83'], ['hue softHi', '83'], ['chroma lo', '0.037'], ['chroma hi', '0.4'], ['chroma softLo', '0.03'], ['lightness lo', '0.1'], ['lightness hi', '0.9'], ['lightness softLo', '0.05']], cleanUp: [...speckle, ['Soften of the stack', '0.7']], loose: [[352, 258], [640, 632]], region: [[385, 320], [450, 610]], without: ['turn', 'scale', 'shear', 'perspective'] },
  { piece: 'Scooter', shot: '3 Street', file: 'shot-3-street', matte: 'scooter', frame: 2, picks: [[[480, 420], [560, 480]]], numbers: [['hue lo', '126'], ['hue hi', '212'], ['hue softLo', '30'], ['hue softHi', '30'], ['chroma lo', '0.018'], ['chroma hi', '0.4'], ['chroma softLo', '0.03'], ['lightness lo', '0.1'], ['lightness hi', '0.95'], ['lightness softLo', '0.05']], cleanUp: speckle, loose: [[320, 110], [1200, 680]], region: [[360, 330], [770, 650]], without: ['shear', 'perspective'] },
  { piece: 'Lark suitcase', shot: '4 Turn', file: 'shot-4-turn', matte: 'suitcase', frame: 24, picks: [[[600, 420], [700, 520]]], numbers: TEAL, cleanUp: [['Despeckle islands of the stack', '200'], ['Despeckle holes of the stack', '300']], loose: [[360, 90], [1200, 715]], region: [[720, 160], [960, 420]], without: ['perspective'] },
  { piece: 'Scarf', shot: '5 Gate', file: 'shot-5-gate', matte: 'scarf', frame: 24, picks: [[[900, 300], [1150, 420]]], numbers: [['hue lo', '30'], ['hue hi', '62'], ['hue softLo', '15'], ['hue softHi', '15'], ['chroma lo', '0.07'], ['chroma hi', '0.4'], ['chroma softLo', '0.04'], ['lightness lo', '0.08'], ['lightness hi', '0.95'], ['lightness softLo', '0.05']], cleanUp: [['Despeckle islands of the stack', '10'], ['Despeckle holes of the stack', '30']], loose: [[840, 165], [1265, 700]], region: [[870, 190], [1240, 640]], without: ['shear', 'perspective'] },
];

for (const job of JOBS)
  test(`${job.piece} in ${job.shot}: key, loose shape and track hold for the whole shot`, async ({ page }) => {
    const d = new Driver(page, server);
    await d.open();
    await d.stage('Isolate');
    await makeTracked(d, page, job);
    const { mean, least, frames } = await everyFrame(d, job.piece, job.shot, job.file, job.matte);
    expect(frames).toBe(48);
    expect(mean).toBeGreaterThanOrEqual(0.95);
    expect(least).toBeGreaterThanOrEqual(0.9);
  });
