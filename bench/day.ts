// A day's use: `npm run day -- [HOURS] [--by-the-clock]`, without the pauses between unless by the clock. Somebody
// opens a project, looks at frames, edits, brings in films, tracks, carries, renders and throws renders away, as often
// each hour as a busy hand does. Told: what memory the server has when it has come to rest after each hour (by the
// clock every ten minutes besides, at whatever it does), how long its event loop was held, and what is left behind.
import { mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { parseArgs } from 'node:util';
import { startServer } from '../e2e/server.ts';
import { heldMs, idleThread, longestMs, measure, megabytes } from './measures.ts';
import { somebody } from './use.ts';

const { positionals, values } = parseArgs({ allowPositionals: true, options: { 'by-the-clock': { type: 'boolean' } } });
const HOURS = Number(positionals[0] ?? 8);
/** What an hour of use takes at the least; ms. */
const HOUR_MS = values['by-the-clock'] ? 3_600_000 : 0;
const TOLD_EVERY_MS = 600_000;
/** How often in an hour. */
const [EDITS, TURNS, OPENED, FRAMES, FILMS, SHOT_RENDERS] = [500, 40, 30, 400, 5, 1];

const work = mkdtempSync(join(tmpdir(), 'mellow-day-'));
const server = await startServer();
const faults: string[] = [];
const fault = (what: string) => {
  console.log(what);
  faults.push(what);
};
const idle = idleThread();
const url = () => server.url;
const text = async (path: string) => (await fetch(url() + path)).text();
try {
  await server.rest();
  const user = await somebody('Slow Morning', { url, work, isOver: () => false, fault });
  const { media } = await user.document();
  let begun = Date.now();
  /** So often, spread over the hour. */
  const times = async (n: number, act: (i: number) => Promise<unknown>) => {
    for (let i = 0; i < n; i++) {
      await pause(Math.max(0, begun + (i / n) * HOUR_MS - Date.now()));
      await act(i);
    }
  };
  const told = (when: string) =>
    console.log(`${new Date().toISOString()} ${when}: ${Math.round(megabytes(server.pid()))} MB`);
  await text('/api/metrics');
  await idle.stalls();
  told('at first');
  for (let hour = 1; hour <= HOURS; hour++) {
    begun = Date.now();
    await Promise.all([
      times(HOUR_MS / TOLD_EVERY_MS, async (tenMinutes) => told(`hour ${hour}, ${10 * tenMinutes} minutes`)),
      times(EDITS, user.edit),
      times(TURNS, user.turn),
      times(OPENED, user.document),
      times(FRAMES, async (i) => {
        const { id, frames } = media[i % media.length]!;
        await user.frame(id, i % frames);
      }),
      times(FILMS, async () => {
        const film = await user.bringIn();
        await user.track();
        await user.renderFilm(film!);
        await user.carry(film!);
      }),
    ]);
    await times(SHOT_RENDERS, () => user.renderShot(hour));
    for (const { id } of await user.get<{ id: string }[]>(`${user.at}/deliveries`)) await user.discard(id);
    await server.rest();
    const metrics = await text('/api/metrics');
    const heap = Math.round(measure(metrics, 'nodejs_heap_size_used_bytes') / 1e6);
    const handles = measure(metrics, 'process_open_fds');
    const [own, byMachine] = [heldMs(metrics), longestMs(await idle.stalls())].map(Math.round);
    told(`hour ${hour}, at rest`);
    console.log(`  ${heap} MB of used heap, ${handles} open files`);
    console.log(`  event loop held for ${own} ms, by the machine for ${byMachine} ms`);
  }
  const failed = (await user.get<{ kind: string; state: string; message: string }[]>(`${user.at}/jobs`)).filter(
    (job) => job.state === 'failed',
  );
  for (const { kind, message } of failed) faults.push(`a ${kind} failed: ${message}`);
  for (const folder of ['deliveries', 'carrying'])
    if (readdirSync(join(server.media, folder)).length > 0) faults.push(`something is left in ${folder}`);
  console.log(`${user.acknowledged.length} edits, ${user.films.length} films; faults: ${faults.join('; ') || 'none'}`);
} finally {
  await idle.end();
  await server.close();
  rmSync(work, { recursive: true });
}
process.exit(faults.length === 0 ? 0 : 1);
