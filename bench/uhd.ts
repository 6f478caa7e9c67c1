// How long renders of 3840 × 2160, or of the size that is said, hold the server's event loop:
// `npm run uhd -- [7680x4320 [PRESET …]]`. Some frames in each way of writing that converts or hashes them otherwise,
// or in those that are said.
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { startServer } from '../e2e/server.ts';
import { heldMs, idleThread, longestMs } from './measures.ts';
import { somebody } from './use.ts';

const [SIZE = '3840x2160', ...said] = process.argv.slice(2);
const [W, H] = SIZE.split('x').map(Number) as [number, number];
const ALL = ['ffv1', 'dpx10', 'tiffFloat', 'exrHalfAlpha', 'mattePng16', 'matteExr'];
const work = mkdtempSync(join(tmpdir(), 'mellow-uhd-'));
const server = await startServer();
const idle = idleThread();
const faults: string[] = [];
const metrics = async () => (await fetch(`${server.url}/api/metrics`)).text();
try {
  await server.rest();
  const around = { url: () => server.url, work, isOver: () => false, fault: (what: string) => void faults.push(what) };
  const user = await somebody('Slow Morning', around);
  const film = (await user.bringIn(SIZE))!;
  await user.isolate(film, 0.5 * W, 0.46 * H, 0.4 * W, 0.42 * H);
  await server.rest();
  for (const preset of said.length > 0 ? said : ALL) {
    await metrics();
    await idle.stalls();
    const begun = Date.now();
    await user.renderFilm(film, preset);
    const [held, byMachine] = [heldMs(await metrics()), longestMs(await idle.stalls())].map(Math.round);
    const seconds = ((Date.now() - begun) / 1000).toFixed(1);
    console.log(`${preset}: event loop held for ${held} ms, by the machine for ${byMachine} ms; ${seconds} s`);
  }
  const deliveries = await user.get<{ preset: string; job: { state: string; message: string | null } }[]>(
    `${user.at}/deliveries`,
  );
  for (const { preset, job } of deliveries) if (job.state !== 'done') faults.push(`${preset} failed: ${job.message}`);
  console.log(`faults: ${faults.join('; ') || 'none'}`);
} finally {
  await idle.end();
  await server.close();
  rmSync(work, { recursive: true });
}
process.exit(faults.length === 0 ? 0 : 1);
