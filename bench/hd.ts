// A 1080p shot rendered to H.264 by a real server in this process, against ffmpeg decoding it, keying it in 8 bit,
// turning its hue and encoding it the same way: CPU time of all processes, measuring and proxies left out; and the
// memory of ours for a shot of 48 frames and for one of four times as many.
import { execFileSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { ChangeId, Edit } from '../packages/contract/src/index.ts';
import { NO_CLEAN_UP, NO_SPILL } from '../packages/core/src/index.ts';
import { words } from '../packages/server/src/media/words.ts';
import { boxed } from '../packages/server/src/testing/boxed.ts';
import { startHarness, type Harness } from '../packages/server/src/testing/harness.ts';

const SHOT = join(import.meta.dirname, '../demo/media/shot-1-platform.mp4');
const TIMES = 4;
const ENCODE = words('-c:v libx264 -preset medium -crf 16 -pix_fmt yuv420p');
const KEY_AND_TURN = 'hsvkey=hue=180:sat=0.6:val=0.5:similarity=0.3:blend=0.1,huesaturation=hue=-110';

export interface HdResult {
  /** CPU seconds of a render and of ffmpeg's chain, by what the stack holds. */
  ours: { name: string; cpuS: number; ratio: number }[];
  theirsS: number;
  /** Most memory of this process while rendering 48 frames, and four times as many, MB. */
  peakMb: [short: number, long: number];
}

/** CPU seconds of this process and of those it has started and seen end. */
function cpuSeconds(): number {
  const stat = readFileSync('/proc/self/stat', 'utf8');
  const fields = stat.slice(stat.lastIndexOf(')') + 2).split(' ');
  const TICKS = 100;
  return [11, 12, 13, 14].reduce((sum, k) => sum + Number(fields[k]), 0) / TICKS;
}

const range = { on: true, lo: 175, hi: 205, softLo: 12, softHi: 12 };
const KEY = {
  id: randomUUID(),
  name: 'Range key',
  kind: 'range',
  on: true,
  mode: 'add',
  invert: false,
  strength: 1,
  picks: [],
  key: {
    hue: range,
    chroma: { on: true, lo: 0.04, hi: 0.2, softLo: 0.03, softHi: 0.03 },
    lightness: { on: true, lo: 0.2, hi: 0.9, softLo: 0.1, softHi: 0.1 },
  },
};
const CLEANED = {
  cleanUp: { ...NO_CLEAN_UP, islandsPx: 60, holesPx: 60, softenPx: 1 },
  spill: { ...NO_SPILL, mode: 'remove', reachPx: 24 },
};

export async function benchHd(): Promise<HdResult> {
  const work = mkdtempSync(join(tmpdir(), 'mellow-hd-'));
  // before there is a server: whatever blocks it while it connects is held against it
  const [short, long] = [clip(work, 1), clip(work, TIMES)];
  const begun = cpuSeconds();
  execFileSync('ffmpeg', [...words('-v error -i'), short, '-vf', KEY_AND_TURN, ...ENCODE, join(work, 'theirs.mp4')]);
  const theirsS = cpuSeconds() - begun;
  const h = await startHarness({ workers: true });
  try {
    const ours: HdResult['ours'] = [];
    const shot = await isolated(h, short);
    for (const [name, more] of [
      ['key and shape', {}],
      ['with clean-up and spill', CLEANED],
    ] as const) {
      await shot.change(more);
      // the first is not counted: threads and compiled code come with it
      if (ours.length === 0) await shot.render();
      const { cpuS } = await shot.render();
      ours.push({ name, cpuS, ratio: cpuS / theirsS });
    }
    const { peakMb } = await shot.render();
    const longer = await isolated(h, long);
    await longer.change(CLEANED);
    return { ours, theirsS, peakMb: [peakMb, (await longer.render()).peakMb] };
  } finally {
    await h.close();
    rmSync(work, { recursive: true, force: true });
  }
}

/** The demo's shot at 1080p, so many times over. */
function clip(folder: string, times: number): string {
  const file = join(folder, `${times}.mp4`);
  const scale = ['-vf', 'scale=1920:1080:flags=bicubic', ...words('-c:v libx264 -preset veryfast -crf 12')];
  execFileSync('ffmpeg', [...words('-v error -y -stream_loop'), String(times - 1), '-i', SHOT, ...scale, file]);
  return file;
}

async function until(isSo: () => Promise<boolean>): Promise<void> {
  while (!(await isSo())) await new Promise((resolve) => setTimeout(resolve, 100));
}

/** A project with a shot of this file, in which the suitcase is keyed within a rectangle. */
async function isolated(h: Harness, file: string) {
  const box = { cx: 620, cy: 720, width: 640, height: 760 };
  const shift = { exposureStops: 0, hueDeg: -110, saturation: 1.4, density: 0 };
  const { projectId, shotId, colourwayId, sightingId } = await boxed(h, randomUUID(), file, box, shift);
  const atRest = () =>
    until(async () => {
      const [document, measured] = [
        await h.call('getProject', { projectId }),
        await h.call('listMeasurements', { projectId }),
      ];
      const isSeen = Object.values(document.proxies).every((p) => p.state === 'done');
      return isSeen && measured.length > 0 && measured.every((m) => m.fresh);
    });
  return {
    async change(more: object): Promise<void> {
      const { value, revision } = (await h.call('getProject', { projectId })).sightings[0]!;
      const [shape] = value.layers.slice(-1);
      const layers = [KEY, { ...shape, mode: 'within' }];
      const edit = { kind: 'sighting', id: sightingId, revision, value: { ...value, layers, ...more } };
      const edits = [edit] as unknown as Edit[];
      await h.call('change', { projectId }, { id: randomUUID() as ChangeId, label: 'Isolate', edits });
      await new Promise((resolve) => setTimeout(resolve, 1000));
      await atRest();
    },
    async render(): Promise<{ cpuS: number; peakMb: number }> {
      await atRest();
      let peak = 0;
      const watch = setInterval(() => (peak = Math.max(peak, process.memoryUsage.rss())), 50);
      const before = cpuSeconds();
      const [asked] = await h.call(
        'render',
        { projectId },
        { shotIds: [shotId], colourwayIds: [colourwayId], preset: 'h264' },
      );
      await until(async () => {
        const { job } = (await h.call('listDeliveries', { projectId })).find((d) => d.id === asked!.id)!;
        if (job.state === 'failed') throw new Error(job.message ?? 'failed');
        return job.state === 'done';
      });
      clearInterval(watch);
      return { cpuS: cpuSeconds() - before, peakMb: peak / 2 ** 20 };
    },
  };
}
