// What a journey does to make a matte hold for a shot, and how it is compared with the ground truth.
import { join } from 'node:path';
import { expect, type Page } from '@playwright/test';
import { withFound } from '../packages/contract/src/index.ts';
import {
  carriedId,
  carriedOf,
  frameMatte,
  knownMotions,
  makeTables,
  maskOfBytes,
  NEUTRAL_RECIPE,
  sightingAt,
  sourceFrame,
  type AnimatedSighting,
  type CarriedMask,
  type FoundFrame,
  type SightingRender,
  type StoredTrack,
} from '../packages/core/src/index.ts';
import { H, TO_RGB, W, type Driver, type Place } from './driving.ts';
import { finished } from './going.ts';
import { compareMattes, readGbr16, readGrey } from './reading.ts';

const demo = join(import.meta.dirname, '../demo');
/** Frames are compared at half size: in a fraction of the time, with the same stack. */
const [HALF_W, HALF_H] = [W / 2, H / 2];

/** A sighting's stored stack on any frame, tracks and keyframes resolved. */
export async function stackOf(d: Driver, piece: string, shot: string): Promise<(frame: number) => SightingRender> {
  const sighting = (await d.sighting(piece, shot))!;
  const document = (await d.document()) as unknown as { tracks: { value: StoredTrack & { id: string } }[] };
  const runs = await d.json<{ runId: string; frames: FoundFrame[] }[]>('/tracks');
  const motions = new Map(
    document.tracks.map(({ value }) => [
      value.id,
      knownMotions(value, (id) => runs.find((r) => r.runId === id)?.frames ?? []),
    ]),
  );
  const { carried } = (await d.document()) as unknown as { carried: Record<string, number[]> };
  const render = {
    ...sighting,
    layers: withFound(sighting.layers, carried),
    cleanUp: sighting.cleanUp ?? undefined,
    spill: undefined,
    ...NEUTRAL_RECIPE,
  } as unknown as AnimatedSighting;
  return (frame) => sightingAt(render, frame, motions);
}

/** The masks that layers were carried to, by core's `carriedId`. */
async function masksOf(d: Driver, layers: SightingRender['layers']): Promise<Map<string, CarriedMask>> {
  const masks = new Map<string, CarriedMask>();
  for (const from of carriedOf(layers)) masks.set(carriedId(from), maskOfBytes(await d.carriedMask(from)));
  return masks;
}

/** Of a shot every so many frames are compared. */
const EVERY = 4;
/** A sighting's stored stack through its shot, every fourth frame against the truth. */
export async function throughShot(d: Driver, piece: string, shot: string, file: string, matte: string) {
  const stackAt = await stackOf(d, piece, shot);
  const truth = readGrey(join(demo, `truth/${file}.${matte}.mkv`), HALF_W, HALF_H);
  const tables = makeTables();
  const pictures = readGbr16(
    join(demo, `media/${file}.mp4`),
    HALF_W,
    HALF_H,
    `select=not(mod(n\\,${EVERY})),` + TO_RGB.replace('zscale=', `zscale=w=${HALF_W}:h=${HALF_H}:filter=bicubic:`),
  );
  const ious: number[] = [];
  for (const [k, [g, b, r]] of pictures.entries()) {
    const { layers, cleanUp } = stackAt(EVERY * k);
    const picture = { width: HALF_W, height: HALF_H, r: r!, g: g!, b: b! };
    const masks = await masksOf(d, layers);
    const source = sourceFrame(picture, 'rec709', 0.5, tables, { carried: (from) => masks.get(carriedId(from)) });
    const alpha = frameMatte(source, layers, cleanUp);
    ious.push(
      compareMattes(
        alpha,
        Float32Array.from(truth[EVERY * k]!, (v) => v / 255),
      ).iou,
    );
  }
  const mean = ious.reduce((a, b) => a + b, 0) / ious.length;
  console.log(
    `${piece}, ${shot}: ${ious.length} frames, IoU mean ${mean.toFixed(3)}, least ${Math.min(...ious).toFixed(3)}`,
  );
  return { mean, least: Math.min(...ious), frames: ious.length };
}

export const section = (page: Page, name: string) =>
  page
    .getByRole('radiogroup', { name: 'Section' })
    .or(page.getByLabel('Section'))
    .getByText(name, { exact: true })
    .click();

interface TrackJob {
  kind: string;
  state: string;
  message: string | null;
}
/**
 * Draws a region on the frame in hand, takes kinds of motion away, and tracks it both ways to the ends of the
 * shot, until the page knows it on all 48 frames; gives the track's name.
 */
export async function trackRegion(
  d: Driver,
  page: Page,
  region: [Place, Place],
  without: readonly string[],
): Promise<string> {
  await section(page, 'Track');
  await page.getByRole('button', { name: 'New track' }).click();
  await d.step(/^Draw Track \d+$/, () => d.drag(...region));
  // another journey on the same shot may have drawn tracks before
  const name = (await d.steps())[0]!.slice('Draw '.length);
  for (const part of without)
    await d.step(`${name}: ${part} off`, () =>
      page.getByRole('group', { name: 'The track may' }).getByText(part).click(),
    );
  await d.step(new RegExp(`^Track ${name}: `), () => page.getByRole('button', { name: 'Track both ways' }).click());
  const jobs = await finished(
    async () => (await d.json<TrackJob[]>('/jobs')).filter((j) => j.kind === 'track'),
    (told) => told.every((j) => j.state !== 'queued' && j.state !== 'running'),
  );
  // each that has ended otherwise says why
  expect(jobs.filter((j) => j.state !== 'done')).toEqual([]);
  await finished(
    () => page.locator(`[data-strip="${name}: confidence"]`).getAttribute('aria-label'),
    (label) => label === `${name}: confidence: 48 of 48 frames`,
  );
  return name;
}
export async function follow(d: Driver, page: Page, layer: string, name: string): Promise<void> {
  await d.layer(layer);
  await section(page, 'Track');
  await d.step(`${layer} follows ${name}`, async () => {
    await page.getByRole('combobox', { name: `${layer} follows` }).click();
    await page
      .locator('.ant-select-dropdown:not(.ant-select-dropdown-hidden) .ant-select-item')
      .filter({ hasText: name })
      .click();
  });
}
