// Files that are sent in as many requests as it takes, by the open protocol tus 1.0.0 (tus.io/protocols).
import { randomUUID } from 'node:crypto';
import { access, constants, mkdir } from 'node:fs/promises';
import { FileStore } from '@tus/file-store';
import { MemoryLocker, Server } from '@tus/server';
import type { Request, Response } from 'express';
import { NodeRequest } from 'srvx/node';
import { UploadId, type ProblemCode } from '@mellow/contract';
import { NotFound, Refused } from '../errors.ts';
import { assertMaySend } from '../keeping/quota.ts';
import { uploadsFolder } from '../media/store.ts';
import { listUploads } from '../media/uploads.ts';
import type { AppServices } from '../services.ts';
import type { Register } from './route.ts';
import { assertRoom } from './uploads.ts';

const PATH = '/api/uploads';
const MOST_BYTES = 2 ** 40;
/** For so long what somebody has on the way is counted on, instead of looked up: a sequence is thousands of files. */
const COUNTED_ON_MS = 10_000;

/** What the protocol's refusals are here, by their HTTP status. */
const CODES: Record<number, ProblemCode> = {
  404: 'not-found',
  409: 'conflict',
  410: 'not-found',
  413: 'too-large',
  423: 'conflict',
};

export function sendingRoutes(register: Register, { store, keeping }: AppServices): void {
  const locker = new MemoryLocker();
  const servers = new Map<string | null, Server>();
  /** Each person has a folder, and a server that knows of no other. */
  const serverOf = async (personId: string | null): Promise<Server> => {
    const known = servers.get(personId);
    if (known) return known;
    const directory = uploadsFolder(store, personId);
    // made here: the library would make it beside, and nobody would hear that it could not
    await mkdir(directory, { recursive: true });
    const made = new Server({
      path: PATH,
      datastore: new FileStore({ directory }),
      locker,
      relativeLocation: true,
      maxSize: MOST_BYTES,
      // no page of another origin is told anything
      allowedOrigins: () => false,
      namingFunction: () => randomUUID(),
    });
    servers.set(personId, made);
    return made;
  };
  const handled = async (personId: string | null, request: Request, response: Response): Promise<undefined> => {
    const answer = await (await serverOf(personId)).handleWeb(new NodeRequest({ req: request, res: response }));
    if (answer.status >= 400) {
      const said = (await answer.text()).trim();
      if (answer.status >= 500) {
        // its own words for any fault of a disk tell nothing: what the matter is shows in the disk itself
        await assertRoom(store.root, 0);
        await access(uploadsFolder(store, personId), constants.W_OK);
        throw new Error(`taking an upload in: ${said}`);
      }
      throw new Refused(CODES[answer.status] ?? 'invalid-input', `The upload was not taken: ${said}.`);
    }
    response.status(answer.status).setHeaders(answer.headers).end();
    return undefined;
  };
  const tallies = new Map<string | null, { at: number; bytes: number }>();
  /** Throws Refused where one more file is more than somebody may have on the way. */
  const count = async (personId: string | null, bytes: number): Promise<void> => {
    if (keeping.uploadBytes === undefined) return;
    let tally = tallies.get(personId);
    if (!tally || Date.now() - tally.at > COUNTED_ON_MS) {
      const begun = await listUploads(store, personId);
      tally = { at: Date.now(), bytes: begun.reduce((sum, upload) => sum + upload.bytes, 0) };
      tallies.set(personId, tally);
    }
    assertMaySend(keeping.uploadBytes, tally.bytes, bytes);
    tally.bytes += bytes;
  };

  register('listUploads', ({ caller }) => listUploads(store, caller.author.id));
  register('createUpload', async ({ caller, request, response }) => {
    const bytes = Number(request.get('upload-length'));
    if (!Number.isSafeInteger(bytes) || bytes < 0)
      throw new Refused('invalid-input', 'Upload-Length: say how long the file is, in bytes.');
    if (!namesAFile(request.get('upload-metadata')))
      throw new Refused('invalid-input', 'Upload-Metadata: say what the file is called (filename, in Base64).');
    if (bytes > MOST_BYTES) throw new Refused('too-large', 'A file may have 1 TiB.');
    await assertRoom(store.root, bytes);
    await count(caller.author.id, bytes);
    return handled(caller.author.id, request, response);
  });
  for (const name of ['uploadOffset', 'continueUpload', 'dropUpload'] as const)
    register(name, ({ params, caller, request, response }) => {
      if (!UploadId.safeParse(params.uploadId).success) throw new NotFound('upload', String(params.uploadId));
      return handled(caller.author.id, request, response);
    });
}

/** Has the metadata of an upload a file name? Pairs of a key and a value in Base64, with commas between them. */
function namesAFile(metadata: string | undefined): boolean {
  const pairs = (metadata ?? '').split(',').map((pair) => pair.trim().split(' '));
  const name = pairs.find(([key]) => key === 'filename')?.[1];
  return name !== undefined && Buffer.from(name, 'base64').toString('utf8').length > 0;
}
