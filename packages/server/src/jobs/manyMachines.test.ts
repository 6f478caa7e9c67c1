// Workers on other machines, which share the media folder and reach the database over a network: they take what there
// is to do, and whoever is killed, or cut off, is replaced without a trace.
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ProjectId } from '@mellow/contract';
import { words } from '../media/words.ts';
import { startHarness, until, type Harness } from '../testing/harness.ts';
import { aMachine, canMakeMachines, type Machine } from '../testing/machine.ts';
import { upload } from '../testing/uploading.ts';

const FRAMES = 100;
/** A connection that was cut off is noticed by a machine when its cable is in again, as late as that. */
const CUT_OFF_MS = 120_000;

describe.skipIf(!canMakeMachines())('machines beside the server', () => {
  let h: Harness;
  let projectId: ProjectId;
  const machines: Machine[] = [];
  const work = mkdtempSync(join(tmpdir(), 'mellow-machines-'));
  const machine = async (name: string): Promise<Machine> => {
    const made = await aMachine(name, h.databaseUrl, h.store.root);
    machines.push(made);
    await made.startWorker();
    return made;
  };
  beforeAll(async () => {
    h = await startHarness();
    projectId = (await h.call('createProject', {}, { name: 'Far' })).id;
    const noise = words('-v error -f lavfi -i testsrc2=size=480x270:rate=24,noise=alls=40:allf=t');
    execFileSync('ffmpeg', [
      ...noise,
      ...words(`-frames:v ${FRAMES} -c:v libx264 -pix_fmt yuv420p`),
      join(work, 'a.mp4'),
    ]);
  });
  afterAll(async () => {
    for (const each of machines) await each.remove();
    await h.close();
    rmSync(work, { recursive: true, force: true });
  });

  const proxies = async () => Object.values((await h.call('getProject', { projectId })).proxies);
  const parts = () => readdirSync(h.store.root, { recursive: true }).filter((path) => String(path).endsWith('.part'));
  const deliveries = async () => (await h.call('listDeliveries', { projectId })).map((d) => d.job);

  it('take over from one that was killed at work, and from one whose cable was pulled', async () => {
    const second = await machine('second');
    await upload(h, projectId, [join(work, 'a.mp4')]);
    await until('the second machine at work', async () => (await proxies()).some((p) => p.done > 5));
    await second.kill();
    const third = await machine('third');
    await until('its work, done by the third', async () => (await proxies()).every((p) => p.state === 'done'), 60_000);

    const { shots, colourways } = await h.call('getProject', { projectId });
    const asked = { shotIds: [shots[0]!.value.id], colourwayIds: [colourways[0]!.value.id], preset: 'ffv1' as const };
    await h.call('render', { projectId }, asked);
    await until('the third machine at work', async () => (await deliveries())[0]!.done > 5);
    third.cable(false);
    await h.resume();
    await until('its work, done here', async () => (await deliveries())[0]!.state === 'done', CUT_OFF_MS);
    const { startedAt, finishedAt } = (await deliveries())[0]!;

    third.cable(true);
    const idle = `select 1 from worker_heartbeat where at > now() - interval '3 seconds'`;
    await until('the third machine back', async () => (await h.pool.query(idle)).rowCount === 2, CUT_OFF_MS);
    await until(
      'nothing half-done',
      async () => parts().every((path) => !String(path).includes('.third.')),
      CUT_OFF_MS,
    );
    expect((await deliveries()).map((job) => [job.state, job.startedAt, job.finishedAt])).toEqual([
      ['done', startedAt, finishedAt],
    ]);
    const { id, fileName } = (await h.call('listDeliveries', { projectId }))[0]!;
    const count = words('-v error -count_frames -select_streams v -show_entries stream=nb_read_frames -of csv=p=0');
    const file = join(h.store.root, 'deliveries', id, fileName);
    expect(execFileSync('ffprobe', [...count, file], { encoding: 'utf8' }).trim()).toBe(String(FRAMES));
    // what was done lets go of its lock after its end is told
    const locked = 'select 1 from graphile_worker._private_jobs where locked_by is not null';
    await until('no lock left', async () => (await h.pool.query(locked)).rowCount === 0);
  });
});
