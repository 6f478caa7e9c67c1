// What the work on mattes takes beside an earlier commit of our own, in turns in one process: CPU time.
import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import * as today from '../packages/core/src/index.ts';
import { matteWork, type Core } from './matteWork.ts';

/** Before there were kernels. */
const COMMIT = '88c612e';
const [WARM_UPS, REPEATS] = [4, 15];
const median = (values: number[]) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)]!;

export interface BesideRow {
  work: string;
  ms: number;
  thenMs: number;
  commit: string;
  wanted: number;
}

/** Throws where the history does not reach back to the commit. */
export async function benchBeside(): Promise<BesideRow[]> {
  const folder = mkdtempSync(join(tmpdir(), 'mellow-beside-'));
  const source = ['archive', COMMIT, 'packages/core/src', 'packages/core/package.json'];
  const archive = execFileSync('git', source, { cwd: join(import.meta.dirname, '..'), maxBuffer: 1e9 });
  execFileSync('tar', ['-x', '-C', folder], { input: archive });
  const then = (await import(join(folder, 'packages/core/src/index.ts'))) as Core;
  const [now, before] = [matteWork(today), matteWork(then)];
  const rows = (
    [
      ['Gaussian σ 2', now.clean({ softenPx: 2 }), before.clean({ softenPx: 2 }), 0.33],
      ['quiet 2 px', now.clean({ quietPx: 2 }), before.clean({ quietPx: 2 }), 0.15],
      ['feather 2 px', now.shape(2), before.shape(2), 0.1],
      ['despeckle', ...[now, before].map((core) => core.clean({ islandsPx: 80, holesPx: 80 })), 0.15],
    ] as [string, () => unknown, () => unknown, number][]
  ).map(([work, ours, theirs, wanted]) => {
    const taken: [number[], number[]] = [[], []];
    for (let i = 0; i < WARM_UPS + REPEATS; i++)
      [ours, theirs].forEach((one, side) => {
        const ms = cpuMs(one);
        if (i >= WARM_UPS) taken[side as 0 | 1].push(ms);
      });
    return { work, ms: median(taken[0]), thenMs: median(taken[1]), commit: COMMIT, wanted };
  });
  rmSync(folder, { recursive: true, force: true });
  return rows;
}

function cpuMs(work: () => unknown): number {
  const start = process.cpuUsage();
  work();
  const { user, system } = process.cpuUsage(start);
  return (user + system) / 1000;
}
