// A project as one zip: what is edited, its history, what was said of it, its tables, and its footage or its hashes.
import { stat } from 'node:fs/promises';
import { join } from 'node:path';
import type { ZipArchive, ZipEntryData } from 'archiver';
import type pg from 'pg';
import {
  ARCHIVE_FORMAT,
  ARCHIVE_PATHS,
  ARCHIVE_VERSION,
  type ArchivedHistory,
  type ArchivedMedia,
  type ArchivedProject,
  type ArchiveManifest,
  carriedRunIds,
  type Layer,
  type ProjectDocument,
} from '@mellow/contract';
import { findCarryRun } from '../db/carryRuns.ts';
import { listHistory } from '../db/changes.ts';
import { listStoredOfProject, type StoredMedia } from '../db/media.ts';
import { listNotes } from '../db/notes.ts';
import { inTransaction, type Queryable } from '../db/pool.ts';
import { projectDocument } from '../db/projects.ts';
import { listSentPages } from '../db/reviews.ts';
import { listRuns } from '../db/trackRuns.ts';
import { standingVerdicts } from '../jobs/standingVerdicts.ts';
import { fileNames } from '../media/fileNames.ts';
import { hashOnce } from '../media/footageFault.ts';
import { hashOfMedia } from '../media/hashes.ts';
import { cubePath, mediaFolder, type MediaStore } from '../media/store.ts';

export interface Archive {
  manifest: ArchiveManifest;
  project: ArchivedProject;
  history: ArchivedHistory;
}

/** Footage with the hash of each of its files; undefined where a file is missing. */
async function described(store: MediaStore, stored: StoredMedia): Promise<ArchivedMedia['files'] | undefined> {
  const files: ArchivedMedia['files'] = [];
  for (const name of fileNames(stored)) {
    const path = join(mediaFolder(store, stored.files.folder), name);
    const sha256 = await hashOnce(path);
    if (sha256 === undefined) return undefined;
    files.push({ name, sha256, bytes: (await stat(path)).size });
  }
  return files;
}

async function archivedMedia(store: MediaStore, stored: StoredMedia, isWanted: boolean): Promise<ArchivedMedia> {
  const { media } = stored;
  const { input, startNumber, firstFrameSeconds = null } = stored.files;
  const files = await described(store, stored);
  // footage that is not whole here is named, so that it can come back there
  const named = fileNames(stored).map((name) => ({ name, sha256: media.sha256, bytes: 0 }));
  const isOneByOne = files !== undefined && hashOfMedia(media.kind, files, false) !== media.sha256;
  const isIncluded = isWanted && files !== undefined;
  return { media, isIncluded, files: files ?? named, input, startNumber, firstFrameSeconds, isOneByOne };
}

/** Where the values of a project name tables. */
const LOOKED_THROUGH = new Set(['cube', 'viewTable']);
/** Tables that the project, or a step of its history, looks through: wherever in the values they are named. */
export function cubesIn(...values: unknown[]): string[] {
  const found = new Set<string>();
  JSON.stringify(values, (key, value: unknown) => {
    const { sha256 } = (LOOKED_THROUGH.has(key) && (value as { sha256?: string } | null)) || {};
    if (sha256) found.add(sha256);
    return value;
  });
  return [...found];
}

function archivedProject(
  document: ProjectDocument,
  said: Omit<ArchivedProject, keyof ProjectDocument>,
): ArchivedProject {
  const {
    trackedFrames: _frames,
    carried: _carried,
    media: _media,
    proxies: _proxies,
    history: _history,
    role: _role,
    ...edited
  } = document;
  return { ...edited, ...said };
}

/** The passes that carried the selections of a sighting or a still. */
function carriesIn(value: unknown): string[] {
  const { layers = [], renders = [] } = (value ?? {}) as { layers?: Layer[]; renders?: { layers: Layer[] }[] };
  return [layers, ...renders.map((r) => r.layers)].flatMap(carriedRunIds);
}

/** What is in the database of a project. */
async function edited(db: Queryable, projectId: string) {
  const document = await projectDocument(db, projectId);
  const history = await listHistory(db, projectId);
  const runIds = history.flatMap(({ edits }) =>
    edits.flatMap(({ kind, before, after }) =>
      kind === 'track' ? [before, after].flatMap((t) => (t && 'runs' in t ? t.runs.map((r) => r.id) : [])) : [],
    ),
  );
  const own = document.tracks.flatMap((t) => t.value.runs.map((r) => r.id));
  const carried = history.flatMap(({ edits }) => edits.flatMap((e) => [...carriesIn(e.before), ...carriesIn(e.after)]));
  const now = [...document.sightings, ...document.stills].flatMap((row) => carriesIn(row.value));
  const passes = [...now, ...carried];
  const carries: ArchivedProject['carries'] = [];
  for (const runId of new Set(passes)) {
    const run = await findCarryRun(db, runId);
    if (!run) continue;
    const frames = run.frames.map((f) => ({ ...f, mask: Buffer.from(f.mask).toString('base64') }));
    carries.push({ runId, isBackward: run.isBackward, frames });
  }
  const project = archivedProject(document, {
    carries,
    runs: await listRuns(db, [...new Set([...own, ...runIds])]),
    notes: await listNotes(db, projectId),
    reviews: await listSentPages(db, projectId),
    verdicts: await standingVerdicts(db, document),
  });
  return { document, history, project, footage: await listStoredOfProject(db, projectId) };
}

/** Everything of a project at one moment. Throws NotFound. */
export async function collectArchive(
  pool: pg.Pool,
  store: MediaStore,
  projectId: string,
  { withFootage, program, at }: { withFootage: boolean; program: string; at: Date },
): Promise<Archive> {
  const { document, history, project, footage } = await inTransaction(pool, async (db) => {
    await db.query('set transaction isolation level repeatable read');
    return edited(db, projectId);
  });
  const media: ArchivedMedia[] = [];
  for (const stored of footage) media.push(await archivedMedia(store, stored, withFootage));
  const manifest: ArchiveManifest = {
    format: ARCHIVE_FORMAT,
    version: ARCHIVE_VERSION,
    program,
    at: at.toISOString(),
    projectName: document.project.value.name,
    media,
    cubes: cubesIn(document.project, document.shots, history),
  };
  return { manifest, project, history };
}

/** Puts it into a zip: what is text packed, footage as it is. */
export function putInto(zip: ZipArchive, store: MediaStore, { manifest, project, history }: Archive): void {
  const text = (value: unknown, name: string) => void zip.append(JSON.stringify(value), { name });
  text(manifest, ARCHIVE_PATHS.manifest);
  text(project, ARCHIVE_PATHS.project);
  text(history, ARCHIVE_PATHS.history);
  for (const sha256 of manifest.cubes) zip.file(cubePath(store, sha256), { name: ARCHIVE_PATHS.cube(sha256) });
  const isIn = new Set<string>();
  for (const { media, files, isIncluded } of manifest.media) {
    // the same files, read in several ways, lie in it once
    if (!isIncluded || isIn.has(media.sha256)) continue;
    isIn.add(media.sha256);
    for (const { name } of files) {
      const entry: ZipEntryData = { name: ARCHIVE_PATHS.media(media.sha256, name), store: true };
      zip.file(join(mediaFolder(store, media.sha256), name), entry);
    }
  }
}
