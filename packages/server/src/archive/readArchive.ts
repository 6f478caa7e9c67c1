// A zip from outside, checked before anything of it is believed.
import { createHash } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { Transform, type Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { openPromise, type Entry, type ZipFile } from 'yauzl';
import type { z } from 'zod';
import {
  ARCHIVE_PATHS,
  ARCHIVE_VERSION,
  ArchivedHistory,
  ArchivedProject,
  ArchiveManifest,
  unstorableAt,
} from '@mellow/contract';
import { Refused } from '../errors.ts';
import type { Archive } from './writeArchive.ts';

/** Bytes of text that one entry may unpack to; entries that a zip may have. */
const MOST_TEXT = 512e6;
const MOST_ENTRIES = 200_000;
/** Text packs to a twentieth; what packs five hundred times as tight is made to burst. */
const TIGHTEST = 500;
const MEGABYTE = 1e6;

const refused = (path: string, message: string): Refused =>
  new Refused('invalid-input', `${path}: ${message}`, [{ path, message }]);

export interface OpenedZip extends Archive {
  /** Unpacks an entry to a file; refuses where its bytes are not those that the manifest names. */
  unpack: (name: string, to: string, claimed: { sha256: string; bytes?: number }) => Promise<void>;
  close: () => void;
}

/** Passes bytes on, up to so many. */
const atMost = (bytes: number, name: string): Transform => {
  let seen = 0;
  return new Transform({
    transform(chunk: Buffer, _encoding, done) {
      seen += chunk.length;
      done(seen > bytes ? refused(name, 'unpacks to more than it says') : null, chunk);
    },
  });
};

async function entriesOf(zip: ZipFile): Promise<Map<string, Entry>> {
  if (zip.entryCount > MOST_ENTRIES) throw refused('zip', `holds ${zip.entryCount} entries`);
  const entries = new Map<string, Entry>();
  await new Promise<void>((resolve, reject) => {
    zip.on('entry', (entry: Entry) => {
      const name = entry.fileName;
      if (entries.has(name)) return reject(refused(name, 'stands twice in the zip'));
      if (entry.uncompressedSize > TIGHTEST * entry.compressedSize + MEGABYTE)
        return reject(refused(name, 'is packed too tightly to be what it says'));
      if (!name.endsWith('/')) entries.set(name, entry);
      zip.readEntry();
    });
    zip.on('end', resolve);
    zip.on('error', reject);
    zip.readEntry();
  });
  return entries;
}

async function textOf(stream: Readable, name: string): Promise<string> {
  const parts: Buffer[] = [];
  const limited = atMost(MOST_TEXT, name);
  limited.on('data', (part: Buffer) => parts.push(part));
  await pipeline(stream, limited);
  return Buffer.concat(parts).toString('utf8');
}

function parsed<S extends z.ZodType>(schema: S, text: string, name: string): z.infer<S> {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch (error) {
    throw refused(name, `is no JSON: ${(error as Error).message}`);
  }
  const unstorable = unstorableAt(value);
  if (unstorable !== undefined) throw refused(name, `${unstorable} holds a character that cannot be stored`);
  const result = schema.safeParse(value);
  if (result.success) return result.data;
  const [issue] = result.error.issues;
  throw refused(name, `${issue!.path.join('.') || 'it'}: ${issue!.message}`);
}

/** Names that may be in the zip, and no others. */
function assertExpected(entries: ReadonlyMap<string, Entry>, { media, cubes }: ArchiveManifest): void {
  const { manifest, project, history } = ARCHIVE_PATHS;
  const expected = new Set<string>([manifest, project, history, ...cubes.map(ARCHIVE_PATHS.cube)]);
  for (const { media: of, files, isIncluded } of media)
    if (isIncluded) for (const { name } of files) expected.add(ARCHIVE_PATHS.media(of.sha256, name));
  for (const name of entries.keys()) if (!expected.has(name)) throw refused(name, 'is not in the manifest');
  for (const name of expected) if (!entries.has(name)) throw refused(name, 'is missing');
}

/**
 * Opens a zip and reads what is text in it. Refuses, with the path: what is no zip, names that lead out of it, what is
 * not in the manifest or missing, what bursts, and text that is not as agreed. `close` it.
 */
export async function readArchive(path: string): Promise<OpenedZip> {
  const zip = await openPromise(path, { lazyEntries: true, autoClose: false }).catch((error: unknown) => {
    throw refused('zip', `cannot be read: ${(error as Error).message}`);
  });
  try {
    const entries = await entriesOf(zip);
    const stream = async (name: string): Promise<Readable> => {
      const entry = entries.get(name);
      if (!entry) throw refused(name, 'is missing');
      return zip.openReadStreamPromise(entry);
    };
    const read = async <S extends z.ZodType>(schema: S, name: string): Promise<z.infer<S>> =>
      parsed(schema, await textOf(await stream(name), name), name);
    const manifest = await read(ArchiveManifest, ARCHIVE_PATHS.manifest);
    if (manifest.version > ARCHIVE_VERSION)
      throw refused(
        ARCHIVE_PATHS.manifest,
        `is of version ${manifest.version}, by Mellow Hue ${manifest.program}; this one reads up to ${ARCHIVE_VERSION}`,
      );
    assertExpected(entries, manifest);
    return {
      manifest,
      project: await read(ArchivedProject, ARCHIVE_PATHS.project),
      history: await read(ArchivedHistory, ARCHIVE_PATHS.history),
      unpack: async (name, to, { sha256, bytes }) => {
        const hash = createHash('sha256');
        const limit = bytes ?? entries.get(name)!.uncompressedSize;
        const hashing = new Transform({
          transform(chunk: Buffer, _encoding, done) {
            hash.update(chunk);
            done(null, chunk);
          },
        });
        await pipeline(await stream(name), atMost(limit, name), hashing, createWriteStream(to, { flags: 'wx' }));
        if (hash.digest('hex') !== sha256) throw refused(name, 'holds other bytes than the manifest says');
      },
      close: () => zip.close(),
    };
  } catch (error) {
    zip.close();
    if (error instanceof Refused) throw error;
    throw refused('zip', `cannot be read: ${(error as Error).message}`);
  }
}
