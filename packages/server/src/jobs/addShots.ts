// Footage that has come in becomes shots, and gets the frames that browsers show.
import { randomUUID } from 'node:crypto';
import type { ChangeId, Edit, ImportAnswer, JobId, MediaId, ProjectId, Shot, ShotId } from '@mellow/contract';
import type { Author } from '../db/author.ts';
import { applyChangeWithin } from '../db/changes.ts';
import { shots } from '../db/entities.ts';
import { latestJobOf } from '../db/jobs.ts';
import { findMedia, type StoredMedia } from '../db/media.ts';
import { inTransaction } from '../db/pool.ts';
import type { AppServices } from '../services.ts';
import { hasProxies } from '../media/proxies.ts';
import { queueJob, requeueJob } from './queue.ts';

/** Makes a shot of each media, at the end of the reel, as one undoable change; queues the proxies that are missing. */
export async function addShots(
  { pool, store }: Pick<AppServices, 'pool' | 'store'>,
  projectId: string,
  imported: readonly StoredMedia[],
  by: Author,
): Promise<Pick<ImportAnswer, 'mediaIds' | 'shotIds'>> {
  if (imported.length === 0) return { mediaIds: [], shotIds: [] };
  const shotIds = imported.map(() => randomUUID() as ShotId);
  await inTransaction(pool, async (db) => {
    const taken = (await shots.listByProject(db, projectId)).map((s) => s.value.position);
    const next = Math.max(-1, ...taken) + 1;
    const label = imported.length === 1 ? `Import ${imported[0]!.media.name}` : `Import ${imported.length} shots`;
    const edits = imported.map(({ media }, i): Edit => {
      const value: Shot = {
        id: shotIds[i]!,
        projectId: projectId as ProjectId,
        mediaId: media.id,
        name: shotName(media.name),
        position: next + i,
        encoding: media.proposedEncoding,
        balance: null,
        light: null,
        patches: [],
        span: null,
        look: null,
      };
      return { kind: 'shot', id: value.id, revision: null, value };
    });
    const change = { id: randomUUID() as ChangeId, label: label.slice(0, 200), edits };
    await applyChangeWithin(db, projectId, change, by);
    for (const stored of imported) await ensureProxies(db, { store }, projectId, stored);
  });
  return { mediaIds: imported.map((m) => m.media.id), shotIds };
}

/** Queues the proxies of a media unless they are there or on their way. */
export async function ensureProxies(
  db: Parameters<typeof queueJob>[0],
  { store }: Pick<AppServices, 'store'>,
  projectId: string,
  stored: StoredMedia,
): Promise<void> {
  const latest = await latestJobOf(db, 'proxy', stored.media.id);
  if (latest && ['queued', 'running'].includes(latest.state)) return;
  if (latest?.state === 'done' && (await hasProxies(store, stored))) return;
  if (latest) return requeueJob(db, latest.id);
  await queueJob(db, {
    id: randomUUID() as JobId,
    projectId,
    kind: 'proxy',
    subject: stored.media.id,
    title: `Proxies of ${stored.media.name}`,
    total: stored.media.frames,
    payload: { mediaId: stored.media.id },
  });
}

/** Queues the proxies of footage of floats that were made before there were such of floats. */
export async function ensureFloatProxies({ pool, store }: Pick<AppServices, 'pool' | 'store'>): Promise<void> {
  const { rows } = await pool.query<{ mediaId: MediaId; projectId: string }>(
    `select distinct on (m.id) m.id as "mediaId", s.project_id as "projectId"
      from media m join shot s on s.media_id = m.id where m.description->>'pixelFormat' ~ 'f32|f16'`,
  );
  for (const { mediaId, projectId } of rows) {
    const stored = (await findMedia(pool, mediaId))!;
    await inTransaction(pool, (db) => ensureProxies(db, { store }, projectId, stored));
  }
}

/** A shot's first name: the file's, without extension and frame numbers. */
const shotName = (file: string): string =>
  file
    .replace(/[._-]?\[\d+-\d+\]/, '')
    .replace(/\.[^.]+$/, '')
    .slice(0, 120) || 'shot';
