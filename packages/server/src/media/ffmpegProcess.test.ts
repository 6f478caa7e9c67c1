import { spawn, type ChildProcess } from 'node:child_process';
import { existsSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import { expect, it } from 'vitest';
import { until } from '../testing/harness.ts';
import { Hung, runInTurn } from './ffmpegProcess.ts';
import { words } from './words.ts';

/** Pictures for ever, at their own rate, without a word. */
const ENDLESS = ['-v', 'error', '-nostdin', '-re', '-f', 'lavfi', '-i', 'color=size=16x16', '-f', 'null', '-'];
const isThere = (pid: number) => existsSync(`/proc/${pid}`);

it('runs one more at once than there are processors, and all of them in the end', async () => {
  let [now, most] = [0, 0];
  const one = () =>
    runInTurn('ffmpeg', [...ENDLESS.slice(0, -3), '-t', '0.3', '-f', 'null', '-'], {
      use: (child) => {
        most = Math.max(most, ++now);
        child.on('close', () => now--);
      },
    });
  const codes = await Promise.all(Array.from({ length: availableParallelism() + 6 }, one));
  expect(codes.every((code) => code === 0)).toBe(true);
  expect(most).toBe(availableParallelism() + 1);
});
it('ends what hangs, and what was cancelled, whether it had its turn or not', async () => {
  const pids: number[] = [];
  const use = ({ pid }: { pid?: number | undefined }) => void pids.push(pid!);
  await expect(runInTurn('ffmpeg', ENDLESS, { use, quietMs: 300 })).rejects.toThrow(Hung);
  const cancelled = new AbortController();
  const all = Array.from({ length: availableParallelism() + 3 }, () =>
    runInTurn('ffmpeg', ENDLESS, { use, signal: cancelled.signal }),
  );
  await until('some that run', async () => pids.length === 1 + availableParallelism() + 1);
  cancelled.abort();
  expect((await Promise.allSettled(all)).map((a) => a.status)).toEqual(all.map(() => 'rejected'));
  await until('their end', async () => !pids.some(isThere));
  expect(pids).toHaveLength(1 + availableParallelism() + 1);
});
it('takes no more memory in one piece than the largest picture needs', async () => {
  const one = [
    '-v',
    'error',
    '-f',
    'lavfi',
    '-i',
    'color=size=1000x1000',
    '-frames:v',
    '1',
    '-f',
    'rawvideo',
    '-y',
    '-',
  ];
  let args: string[] = [];
  expect(await runInTurn('ffmpeg', one, { use: (child) => void (args = child.spawnargs) })).toBe(0);
  const most = args[args.indexOf('-max_alloc') + 1];
  // 8192 × 8192 pixels of four floats, twice
  expect(Number(most)).toBe(8192 * 8192 * 16 * 2 - 1);
});
it('takes no more memory in all than it may: what does is ended, and says why', async () => {
  // four hundred pictures of 6 MB, kept to be shown again
  const hoards = words('-v error -nostdin -f lavfi -i testsrc2=size=2000x1000,format=rgb24,loop=loop=-1:size=400');
  let said = '';
  const use = (child: ChildProcess) => void child.stderr!.on('data', (text: Buffer) => (said += text.toString()));
  const mostBytes = 0.5 * 2 ** 30;
  expect(await runInTurn('ffmpeg', [...hoards, ...words('-f null -')], { use, mostBytes })).toBeNull();
  expect(said).toBe('[error] it needs more than 0.5 GB of memory\n');
});
it('is gone with the process that began it, also where that is killed', async () => {
  const module = join(import.meta.dirname, 'ffmpegProcess.ts');
  const script = `import { beginInTurn } from ${JSON.stringify(module)};
    console.log((await beginInTurn(${JSON.stringify(ENDLESS)}, 'ignore')).child.pid);
    setInterval(() => undefined, 1000);`;
  const parent = spawn(process.execPath, ['--import', 'tsx', '--input-type=module', '-e', script]);
  const pid = await new Promise<number>((resolve) => parent.stdout.once('data', (d) => resolve(Number(d))));
  expect(isThere(pid)).toBe(true);
  parent.kill('SIGKILL');
  await until('its end', async () => !isThere(pid));
});
