import { Media, type MediaId } from '@mellow/contract';
import type { Queryable } from './pool.ts';

/** Where the files of a media lie under its store folder. A sequence has a printf pattern and its first number. */
interface MediaFiles {
  folder: string;
  input: string;
  startNumber: number | null;
  /**
   * Seconds from the container's start to the first frame, where frames can be sought by their time; see media/probe.
   */
  firstFrameSeconds?: number | null;
}
export interface StoredMedia {
  media: Media;
  files: MediaFiles;
}
interface MediaRow {
  description: unknown;
  files: MediaFiles;
}
const toStored = (row: MediaRow): StoredMedia => ({ media: Media.parse(row.description), files: row.files });

export async function findMedia(db: Queryable, id: MediaId): Promise<StoredMedia | undefined> {
  const { rows } = await db.query<MediaRow>({
    name: 'media.find',
    text: 'select description, files from media where id = $1',
    values: [id],
  });
  return rows[0] && toStored(rows[0]);
}
export async function findMediaByHash(db: Queryable, sha256: string): Promise<StoredMedia | undefined> {
  const { rows } = await db.query<MediaRow>({
    name: 'media.findByHash',
    text: 'select description, files from media where sha256 = $1',
    values: [sha256],
  });
  return rows[0] && toStored(rows[0]);
}
export async function listStoredOfProject(db: Queryable, projectId: string): Promise<StoredMedia[]> {
  const { rows } = await db.query<MediaRow>({
    name: 'media.listOfProject',
    text: `select description, files from media where id in (select media_id from shot
      where project_id = $1 union select media_id from plate where project_id = $1)`,
    values: [projectId],
  });
  return rows.map(toStored);
}
export const listMediaOfProject = async (db: Queryable, projectId: string): Promise<Media[]> =>
  (await listStoredOfProject(db, projectId)).map(({ media }) => media);

export async function listPlates(db: Queryable, projectId: string): Promise<MediaId[]> {
  const { rows } = await db.query<{ media_id: MediaId }>({
    name: 'media.listPlates',
    text: 'select media_id from plate where project_id = $1 order by created_at',
    values: [projectId],
  });
  return rows.map((row) => row.media_id);
}
export async function addPlate(db: Queryable, projectId: string, mediaId: MediaId): Promise<void> {
  await db.query('insert into plate (project_id, media_id) values ($1, $2) on conflict do nothing', [
    projectId,
    mediaId,
  ]);
}
export async function insertMedia(db: Queryable, { media, files }: StoredMedia): Promise<void> {
  await db.query('insert into media (id, sha256, description, files) values ($1, $2, $3, $4)', [
    media.id,
    media.sha256,
    JSON.stringify(media),
    JSON.stringify(files),
  ]);
}
