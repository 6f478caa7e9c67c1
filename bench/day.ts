// A day's use, without the pauses between: `npm run day -- [HOURS]`. Somebody opens a project, looks at frames, edits,
// brings in films, tracks, carries, renders and throws renders away, as often each hour as a busy hand does. Told: what
// memory the server has when it has come to rest after each, how long its event loop was held, and what is left behind.
import { mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { startServer } from '../e2e/server.ts';
import { heldMs, idleThread, longestMs, measure, megabytes } from './measures.ts';
import { somebody } from './use.ts';

const HOURS = Number(process.argv[2] ?? 8);
/** How often in an hour. */
const [EDITS, TURNS, OPENED, FRAMES, FILMS, SHOT_RENDERS] = [500, 40, 30, 400, 5, 1];

const work = mkdtempSync(join(tmpdir(), 'mellow-day-'));
const server = await startServer();
const faults: string[] = [];
const idle = idleThread();
const url = () => server.url;
const text = async (path: string) => (await fetch(url() + path)).text();
try {
  await server.rest();
  const user = await somebody('Slow Morning', { url, work, isOver: () => false, fault: (t) => void faults.push(t) });
  const { media } = await user.document();
  const times = async (n: number, act: (i: number) => Promise<unknown>) => {
    for (let i = 0; i < n; i++) await act(i);
  };
  await text('/api/metrics');
  await idle.stalls();
  for (let hour = 1; hour <= HOURS; hour++) {
    await Promise.all([
      times(EDITS, user.edit),
      times(TURNS, user.turn),
      times(OPENED, () => text(user.at)),
      times(FRAMES, async (i) => {
        const { id, frames } = media[i % media.length]!;
        await (await fetch(`${url()}/api/media/${id}/frames/proxy/${i % frames}`)).arrayBuffer();
      }),
      times(FILMS, async () => {
        const film = await user.bringIn();
        await user.track();
        await user.renderFilm(film!);
        await user.carry(film!);
      }),
    ]);
    await times(SHOT_RENDERS, () => user.renderShot(hour));
    for (const { id } of await user.get<{ id: string }[]>(`${user.at}/deliveries`)) {
      const { status } = await fetch(`${url()}/api/deliveries/${id}`, { method: 'DELETE' });
      if (status !== 200) faults.push(`a render was not deleted: ${status}`);
    }
    await server.rest();
    const metrics = await text('/api/metrics');
    const [all, heap] = [megabytes(server.pid()), measure(metrics, 'nodejs_heap_size_used_bytes') / 1e6];
    const handles = measure(metrics, 'process_open_fds');
    const told = [`${Math.round(all)} MB, ${Math.round(heap)} MB of it used heap`, `${handles} open files`];
    const [own, byMachine] = [heldMs(metrics), longestMs(await idle.stalls())].map(Math.round);
    console.log(`hour ${hour}: ${told.join(', ')}; event loop held for ${own} ms, by the machine for ${byMachine} ms`);
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
