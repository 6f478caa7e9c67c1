import { randomUUID } from 'node:crypto';
import { framesOf, within, type ChangeId, type JobId } from '@mellow/contract';
import type { AppServices } from '../services.ts';
import { applyChangeWithin } from '../db/changes.ts';
import { shots, tracks } from '../db/entities.ts';
import { findJob } from '../db/jobs.ts';
import { findMedia } from '../db/media.ts';
import { inTransaction } from '../db/pool.ts';
import { assertProject } from '../db/projects.ts';
import { insertRun, listRuns } from '../db/trackRuns.ts';
import { queueJob } from '../jobs/queue.ts';
import { assertId } from './ids.ts';
import { NotFound, Refused } from '../errors.ts';
import type { Register } from './route.ts';

export function trackRoutes(register: Register, { pool }: AppServices): void {
  register('listTracks', async ({ params }) => {
    const projectId = assertId('project', params.projectId);
    await assertProject(pool, projectId);
    const all = await tracks.listByProject(pool, projectId);
    return listRuns(
      pool,
      all.flatMap((t) => t.value.runs.map((r) => r.id)),
    );
  });
  register('track', async ({ params, body, caller }) => {
    const projectId = assertId('project', params.projectId);
    return inTransaction(pool, async (db) => {
      const current = await tracks.find(db, body.trackId);
      if (!current || current.value.projectId !== projectId) throw new NotFound('track', body.trackId);
      const shot = (await shots.find(db, current.value.shotId))!.value;
      const { media } = (await findMedia(db, shot.mediaId))!;
      const shown = framesOf(shot, media);
      for (const [i, { from, to }] of body.spans.entries()) {
        const stray = [from, to].find((at) => at !== within(shown, at));
        if (stray !== undefined)
          throw new Refused(
            'invalid-input',
            stray > shown.to
              ? `Frame ${stray} is past the shot's last, ${shown.to}.`
              : `Frame ${stray} is before the shot's first, ${shown.from}.`,
            [{ path: `spans.${i}`, message: `frames run from ${shown.from} to ${shown.to}` }],
          );
        if (from === to)
          throw new Refused('invalid-input', `From frame ${from} to itself there is nothing to track.`, [
            { path: `spans.${i}`, message: 'from and to are the same frame' },
          ]);
      }
      const runs = body.spans.map(({ from, to }) => ({
        id: randomUUID(),
        from,
        to,
        first: Math.min(from, to),
        last: Math.max(from, to),
      }));
      for (const run of runs) await insertRun(db, run.id, projectId);
      const track = { ...current.value, runs: [...current.value.runs, ...runs] };
      const spans = body.spans.map(({ from, to }) => `${from} → ${to}`).join(', ');
      const change = await applyChangeWithin(
        db,
        projectId,
        {
          id: randomUUID() as ChangeId,
          label: `Track ${track.name}: ${spans}`,
          edits: [{ kind: 'track', id: track.id, revision: current.revision, value: track }],
        },
        caller.author,
      );
      const jobId = randomUUID() as JobId;
      const total = body.spans.reduce((n, { from, to }) => n + Math.abs(to - from), 0);
      await queueJob(db, {
        id: jobId,
        projectId,
        kind: 'track',
        subject: track.id,
        title: `Track ${track.name} in ${shot.name}: ${spans}`,
        total,
        payload: { track, mediaId: shot.mediaId, encoding: shot.encoding, runIds: runs.map((r) => r.id) },
      });
      return { change, job: (await findJob(db, jobId))!.job };
    });
  });
}
