// A shot of the demo rendered in all its colourways by a real server: together, and one after the other.
import type { Delivery, ProjectDocument } from '../packages/contract/src/index.ts';
import { finished } from '../e2e/going.ts';
import { startServer } from '../e2e/server.ts';

const SHOT = '1 Platform';

/** Seconds from asking for all colourways of a shot to the last file: in one go, and one after the other. */
export async function benchColourways(): Promise<{ togetherS: number; apartS: number; colourways: number }> {
  const server = await startServer();
  try {
    await server.rest();
    const get = async <T>(path: string) => (await (await fetch(`${server.url}/api${path}`)).json()) as T;
    const id = (await get<{ id: string; name: string }[]>('/projects')).find((p) => p.name === 'Slow Morning')!.id;
    const document = await get<ProjectDocument>(`/projects/${id}`);
    const shotIds = [document.shots.find((s) => s.value.name === SHOT)!.value.id];
    const all = document.colourways.map((c) => c.value.id);
    const seconds = async (colourwayIds: readonly string[]) => {
      const start = performance.now();
      await fetch(`${server.url}/api/projects/${id}/deliveries`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ shotIds, colourwayIds, preset: 'ffv1' }),
      });
      await finished(
        async () => (await get<Delivery[]>(`/projects/${id}/deliveries`)).map((d) => d.job),
        (jobs) => jobs.every((job) => job.state === 'done'),
        50,
      );
      return (performance.now() - start) / 1000;
    };
    // threads and compiled code are there before anything counts
    await seconds([all[0]!]);
    let [togetherS, apartS] = [0, 0];
    for (let turn = 0; turn < 2; turn++) {
      togetherS += (await seconds(all)) / 2;
      for (const one of all) apartS += (await seconds([one])) / 2;
    }
    return { togetherS, apartS, colourways: all.length };
  } finally {
    await server.close();
  }
}
