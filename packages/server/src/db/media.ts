import type pg from 'pg';
import { Media, type MediaId } from '@mellow/contract';
import { list, type Listing } from './listing.ts';
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
/** What tells one way to read the same files from another; empty: as they state it. */
const readingOf = ({ stated, matrix, range, isDeinterlaced }: Media): string =>
  stated || isDeinterlaced ? `${matrix} ${range}${isDeinterlaced ? ' deinterlaced' : ''}` : '';

/**
 * Footage by its hash, read as its files state, for who brings it in or builds on it: it is not cleared away meanwhile.
 */
export async function wantMediaByHash(db: Queryable, sha256: string): Promise<StoredMedia | undefined> {
  const { rows } = await db.query<MediaRow>({
    name: 'media.want',
    text: `update media set wanted_at = now() where sha256 = $1 and reading = '' returning description, files`,
    values: [sha256],
  });
  return rows[0] && toStored(rows[0]);
}
/** Within a transaction: its files and its row belong together, and nobody else touches either until its end. */
export async function lockFootage(db: Queryable, sha256: string): Promise<void> {
  await db.query('select pg_advisory_xact_lock(hashtextextended($1, 0))', [sha256]);
}
/** Holds footage as `lockFootage` does, for several transactions: until `use` has ended, or the process has. */
export async function holdingFootage<T>(pool: pg.Pool, sha256: string, use: (db: Queryable) => Promise<T>): Promise<T> {
  const client = await pool.connect();
  let broken: unknown;
  try {
    await client.query('select pg_advisory_lock(hashtextextended($1, 0))', [sha256]);
    return await use(client);
  } finally {
    // a connection that cannot let go is closed, which lets go too
    await client
      .query('select pg_advisory_unlock(hashtextextended($1, 0))', [sha256])
      .catch((error: unknown) => (broken = error));
    client.release(broken !== undefined);
  }
}
export async function hasMedia(db: Queryable, sha256: string): Promise<boolean> {
  return (await db.query('select 1 from media where sha256 = $1 limit 1', [sha256])).rowCount === 1;
}
export async function noteBytes(db: Queryable, id: MediaId, bytes: number): Promise<void> {
  await db.query('update media set bytes = $2 where id = $1', [id, bytes]);
}
export async function noteFrameBytes(db: Queryable, id: MediaId, bytes: number): Promise<void> {
  await db.query('update media set frame_bytes = $2 where id = $1', [id, bytes]);
}
/** Stores a media, or finds the one of the same files that is read in the same way. */
export async function keepMedia(db: Queryable, { media, files }: StoredMedia): Promise<StoredMedia> {
  const { rows } = await db.query<MediaRow>({
    name: 'media.keep',
    text: `insert into media (id, sha256, description, files, reading) values ($1, $2, $3, $4, $5)
      on conflict (sha256, reading) do update set reading = excluded.reading returning description, files`,
    values: [media.id, media.sha256, JSON.stringify(media), JSON.stringify(files), readingOf(media)],
  });
  return toStored(rows[0]!);
}
const storedListing = (condition: string): Listing<StoredMedia> => ({
  text: `select description, files from media where ${condition} order by sha256, reading`,
  toValue: (row) => toStored(row as unknown as MediaRow),
});
/** The footage a project ($1) stands on, in all the ways in which its files are read. */
export const MEDIA_OF_PROJECT = storedListing(`sha256 in (select sha256 from media where id in (
  select media_id from shot where project_id = $1 union select media_id from plate where project_id = $1))`);
export const listStoredOfProject = (db: Queryable, projectId: string): Promise<StoredMedia[]> =>
  list(db, MEDIA_OF_PROJECT, [projectId]);
/** The footage of a shot ($2). */
export const MEDIA_OF_SHOT = storedListing('id = (select media_id from shot where id = $2)');
/** The plates of a project ($1). */
export const PLATES: Listing<MediaId> = {
  text: 'select media_id from plate where project_id = $1 order by created_at',
  toValue: (row) => row.media_id as MediaId,
};
export async function addPlate(db: Queryable, projectId: string, mediaId: MediaId): Promise<void> {
  await db.query('insert into plate (project_id, media_id) values ($1, $2) on conflict do nothing', [
    projectId,
    mediaId,
  ]);
}
