// A project out of a zip: its footage and tables come in, then all that was edited, under new ids.
import { randomBytes, randomUUID } from 'node:crypto';
import { mkdir, rm } from 'node:fs/promises';
import { basename, join } from 'node:path';
import type pg from 'pg';
import {
  ARCHIVE_PATHS,
  type ArchivedMedia,
  type Edit,
  type MediaId,
  Reading,
  type OpenedArchive,
  type ProjectDocument,
} from '@mellow/contract';
import { maskOfBytes, platesOf } from '@mellow/core';
import { insertCarryRun, saveCarried } from '../db/carryRuns.ts';
import { insertLogged } from '../db/changes.ts';
import * as entities from '../db/entities.ts';
import { addPlate, findMedia, wantMediaByHash, keepMedia, type StoredMedia } from '../db/media.ts';
import { addNote } from '../db/notes.ts';
import { inTransaction, type Queryable } from '../db/pool.ts';
import { PARTS, renamed } from '../db/projectParts.ts';
import { projectDocument } from '../db/projects.ts';
import { assertReferencesWithin } from '../db/references.ts';
import { insertReviewSighting, insertSentPage } from '../db/reviews.ts';
import { insertRun, saveFrames, saveStop } from '../db/trackRuns.ts';
import { insertVerdict } from '../db/verdicts.ts';
import { ensureProxies } from '../jobs/addShots.ts';
import { measurementInputs, scheduleStaleMeasurements } from '../jobs/measureWork.ts';
import { importCube } from '../media/cubes.ts';
import { fileNames } from '../media/fileNames.ts';
import { footageFault } from '../media/footageFault.ts';
import { importFiles } from '../media/importMedia.ts';
import { readAs } from '../media/readAs.ts';
import type { MediaStore } from '../media/store.ts';
import { Refused } from '../errors.ts';
import { ownProject, seesMedia, type Caller } from '../people/caller.ts';
import { readArchive, type OpenedZip } from './readArchive.ts';

const refused = (path: string, message: string): Refused =>
  new Refused('invalid-input', `${path}: ${message}`, [{ path, message }]);
/** A carried mask, after it has been seen that it is one. */
function maskFrom(base64: string): Buffer {
  const bytes = Buffer.from(base64, 'base64');
  try {
    maskOfBytes(bytes);
  } catch (error) {
    throw refused(ARCHIVE_PATHS.project, `carries: ${(error as Error).message}`);
  }
  return bytes;
}
/** Inputs of a picture that nothing can have. */
const OF_ANOTHER_STATE = 'of another state';

/** Refuses names and hashes of footage that do not go together, before a file is written. */
function assertMediaAgree({ media, files, input, startNumber, isIncluded }: ArchivedMedia): void {
  const at = `media ${media.sha256}`;
  for (const { name } of files)
    if (name !== basename(name) || /[\\/\0]/.test(name) || name.startsWith('.'))
      throw refused(at, `“${name}” is no name`);
  const stored: StoredMedia = { media, files: { folder: media.sha256, input, startNumber } };
  const due = isIncluded ? files.length : Math.min(media.frames, files.length);
  if (due !== files.length || fileNames(stored).some((name, i) => name !== files[i]?.name))
    throw refused(at, 'its files are not those that it is opened by');
}

/** What the project is made of and what it stands on belong together, and to nothing else. */
function assertOneProject({ project, manifest }: OpenedZip): void {
  const { id } = project.project.value;
  const known = new Set<string>(manifest.media.map((m) => m.media.id));
  const seen = new Set<string>([id]);
  for (const part of PARTS)
    for (const { value } of project[part]) {
      if (value.projectId !== id) throw refused(ARCHIVE_PATHS.project, `${part}: ${value.id} is of another project`);
      if (seen.has(value.id)) throw refused(ARCHIVE_PATHS.project, `${part}: ${value.id} stands twice`);
      seen.add(value.id);
    }
  const used = [
    ...project.shots.map((s) => s.value.mediaId),
    ...project.plates,
    ...project.sightings.flatMap((s) => platesOf(s.value.layers).flatMap((plate) => plate.mediaId ?? [])),
  ];
  for (const mediaId of used)
    if (!known.has(mediaId))
      throw refused(ARCHIVE_PATHS.manifest, `names no footage ${mediaId}, which the project uses`);
}

/** Footage that is named only is taken from what is here: from what who opens the zip may see. */
async function assertMaySee(pool: pg.Pool, { manifest }: OpenedZip, by: Caller): Promise<void> {
  for (const { media, isIncluded } of manifest.media) {
    const known = isIncluded ? undefined : await wantMediaByHash(pool, media.sha256);
    if (!known || (await seesMedia(pool, by, [known.media.id]))) continue;
    const why = 'is named only, and lies in none of your projects: save the zip with its footage';
    throw refused(ARCHIVE_PATHS.manifest, `${media.name} ${why}`);
  }
}

/** Brings footage out of the zip into the store, or finds it there, and reads it as it was read. Its id here. */
async function footage(pool: pg.Pool, store: MediaStore, zip: OpenedZip, of: ArchivedMedia): Promise<MediaId> {
  const reading = Reading.safeParse(of.media);
  if (!reading.success) throw refused(`media ${of.media.sha256}`, `is read by a matrix “${of.media.matrix}”`);
  const stored = await footageAsStated(pool, store, zip, of);
  if (!of.media.stated && !of.media.isDeinterlaced) return stored.media.id;
  return (await readAs(pool, stored, reading.data)).media.id;
}
async function footageAsStated(
  pool: pg.Pool,
  store: MediaStore,
  zip: OpenedZip,
  of: ArchivedMedia,
): Promise<StoredMedia> {
  const { media, files, isIncluded, isOneByOne, input, startNumber, firstFrameSeconds } = of;
  if (isIncluded) {
    const bench = join(store.staging, randomUUID());
    await mkdir(bench);
    try {
      for (const { name, sha256, bytes } of files)
        await zip.unpack(ARCHIVE_PATHS.media(media.sha256, name), join(bench, name), { sha256, bytes });
      const incoming = files.map(({ name }) => ({ path: join(bench, name), name }));
      const imported = await importFiles(pool, store, incoming, {
        take: 'move',
        ...(media.kind === 'sequence' && { fps: media.fps.num / media.fps.den }),
        ...(isOneByOne && { timing: 'frame by frame' }),
      });
      const [first] = imported.media;
      if (!first || imported.media.length > 1)
        throw refused(`media ${media.sha256}`, imported.refused[0]?.reason ?? 'is not one footage');
      if (first.media.sha256 !== media.sha256)
        throw refused(`media ${media.sha256}`, 'is another footage than it says');
      return first;
    } finally {
      await rm(bench, { recursive: true, force: true });
    }
  }
  const known = await wantMediaByHash(pool, media.sha256);
  if (known) return known;
  const asStated = { ...media, ...media.stated, stated: null, isDeinterlaced: false, id: randomUUID() as MediaId };
  return keepMedia(pool, { media: asStated, files: { folder: media.sha256, input, startNumber, firstFrameSeconds } });
}

async function tables(store: MediaStore, zip: OpenedZip): Promise<void> {
  for (const sha256 of zip.manifest.cubes) {
    const name = ARCHIVE_PATHS.cube(sha256);
    const path = join(store.staging, `${randomUUID()}.cube`);
    try {
      await zip.unpack(name, path, { sha256 });
      await importCube(store, { path, name });
    } finally {
      await rm(path, { force: true });
    }
  }
}

/** Another name for every id of the project's own, and the names that its footage has here. */
function newNames({ project, history }: OpenedZip, media: ReadonlyMap<string, string>): Map<string, string> {
  const runsOf = (value: unknown) => ((value as { runs?: { id: string }[] } | null)?.runs ?? []).map((r) => r.id);
  const own = [
    project.project.value.id,
    ...PARTS.flatMap((part) => project[part].map((row) => row.value.id)),
    ...project.runs.map((r) => r.runId),
    ...project.carries.map((r) => r.runId),
    ...project.tracks.flatMap((t) => runsOf(t.value)),
    ...project.notes.map((n) => n.id),
    ...project.reviews.map((r) => r.id),
    ...project.verdicts.map((v) => v.id),
    ...history.flatMap(({ edits }) => edits.flatMap((e) => [e.id, ...runsOf(e.before), ...runsOf(e.after)])),
  ];
  const names = new Map<string, string>(own.map((id) => [id, randomUUID()]));
  for (const [there, here] of media) names.set(there, here);
  return names;
}

async function insertAll(
  db: Queryable,
  zip: OpenedZip,
  names: ReadonlyMap<string, string>,
  by: Caller,
): Promise<ProjectDocument> {
  const project = renamed(zip.project, names);
  const { id } = project.project.value;
  await entities.projects.insert(db, project.project.value, project.project.revision);
  await ownProject(db, id, by);
  const rows = PARTS.flatMap((part) => project[part].map((row) => ({ part, ...row })));
  for (const { runId, frames, stopped } of project.runs) {
    await insertRun(db, runId, id);
    await saveFrames(db, runId, frames);
    await saveStop(db, runId, stopped);
  }
  for (const { runId, isBackward, frames } of project.carries) {
    await insertCarryRun(db, { id: runId, projectId: id, isBackward });
    const inOrder = frames.toSorted((a, b) => (isBackward ? b.frame - a.frame : a.frame - b.frame));
    for (const { mask, ...frame } of inOrder) await saveCarried(db, runId, { ...frame, mask: maskFrom(mask) });
  }
  for (const { part, value, revision } of rows) await entities[part].insert(db, value as never, revision);
  const kinds = Object.fromEntries(PARTS.map((part) => [part, part.slice(0, -1)]));
  const edits = rows.map(({ part, value }) => ({ kind: kinds[part], id: value.id, revision: null, value })) as Edit[];
  await assertReferencesWithin(db, id, edits);
  for (const mediaId of project.plates) await addPlate(db, id, mediaId);
  for (const change of renamed(zip.history, names)) await insertLogged(db, id, randomUUID(), change, by.author.id);
  const document = await projectDocument(db, id);
  for (const sent of project.reviews) await insertSentPage(db, id, randomBytes(24).toString('base64url'), sent);
  const inputsOf = measurementInputs(document);
  const sentIds = new Set<string>(project.reviews.map((r) => r.id));
  for (const { reviewId, holds, at, ...verdict } of project.verdicts) {
    if (!sentIds.has(reviewId)) throw refused(ARCHIVE_PATHS.project, `verdicts: there is no review ${reviewId}`);
    const { sightingId, colourwayId } = verdict;
    const now = inputsOf(sightingId, colourwayId);
    await insertReviewSighting(db, { reviewId, sightingId, colourwayId, inputs: (holds && now) || OF_ANOTHER_STATE });
    await insertVerdict(db, reviewId, verdict, at);
  }
  for (const note of project.notes)
    await addNote(db, id, sentIds.has(note.reviewId ?? '') ? note.reviewId : null, note);
  return document;
}

/** What PostgreSQL says of rows that contradict each other: the zip is wrong, not the server. */
const isContradiction = (error: unknown): error is Error =>
  error instanceof Error && /^2[23]/.test(String((error as { code?: unknown }).code));

/** Is footage shown now, not only in a way in which it was read before? */
const isUsed = ({ shots, plates }: ProjectDocument, { media }: StoredMedia): boolean =>
  plates.includes(media.id) || shots.some((shot) => shot.value.mediaId === media.id);

/**
 * Makes a new project of a zip: all of it, or none. Footage that is neither in the zip nor here is named in the answer;
 * it comes back to its shots when it is brought in. Throws Refused with the path in the zip.
 */
export async function openArchive(pool: pg.Pool, store: MediaStore, path: string, by: Caller): Promise<OpenedArchive> {
  const zip = await readArchive(path);
  try {
    zip.manifest.media.forEach(assertMediaAgree);
    assertOneProject(zip);
    await assertMaySee(pool, zip, by);
    await tables(store, zip);
    const media = new Map<string, string>();
    for (const of of zip.manifest.media) media.set(of.media.id, await footage(pool, store, zip, of));
    const names = newNames(zip, media);
    const document = await inTransaction(pool, (db) => insertAll(db, zip, names, by)).catch((error: unknown) => {
      throw isContradiction(error) ? refused(ARCHIVE_PATHS.project, `contradicts itself: ${error.message}`) : error;
    });
    const { id } = document.project.value;
    const missing = new Set<string>();
    for (const { media: of } of zip.manifest.media) {
      const stored = (await findMedia(pool, media.get(of.id) as MediaId))!;
      if (await footageFault(store, stored)) missing.add(of.name);
      else if (isUsed(document, stored)) await inTransaction(pool, (db) => ensureProxies(db, { store }, id, stored));
    }
    await scheduleStaleMeasurements(pool, id);
    return { id, missing: [...missing] };
  } finally {
    zip.close();
  }
}
