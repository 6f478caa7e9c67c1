import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { BodyOf } from '@mellow/contract';
import { until, type Harness } from './harness.ts';

/** Renders one file, waits until it is done, and brings it into a folder: its path. Throws where the render fails. */
export async function renderedFile(
  h: Harness,
  projectId: string,
  asked: BodyOf<'render'>,
  folder: string,
): Promise<string> {
  const { id } = (await h.call('render', { projectId }, asked))[0]!;
  await until('the render', async () => {
    const now = (await h.call('listDeliveries', { projectId })).find((d) => d.id === id)!;
    if (now.job.state === 'failed') throw new Error(now.job.message ?? 'failed');
    return now.job.state === 'done';
  });
  const answer = await fetch(`${h.url}/api/deliveries/${id}/file`, { headers: { connection: 'close' } });
  const path = join(folder, id);
  writeFileSync(path, Buffer.from(await answer.arrayBuffer()));
  return path;
}
