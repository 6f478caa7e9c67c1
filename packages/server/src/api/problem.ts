import { MulterError } from 'multer';
import type { Problem, ProblemCode } from '@mellow/contract';
import { isDatabaseAway, isPoolEnded } from '../db/pool.ts';
import { Refused } from '../errors.ts';
import { diskFaultOf } from '../media/diskFaults.ts';

export const STATUS = {
  'invalid-input': 400,
  'signed-out': 401,
  'not-allowed': 403,
  'too-many': 429,
  'not-found': 404,
  'stale-revision': 409,
  conflict: 409,
  'refused-media': 422,
  'too-large': 413,
  'storage-full': 507,
  unavailable: 503,
  internal: 500,
} as const satisfies Record<ProblemCode, number>;

export const TITLE: Record<ProblemCode, string> = {
  'invalid-input': 'The request is not valid',
  'signed-out': 'Nobody is signed in',
  'not-allowed': 'Not allowed',
  'too-many': 'Too many tries',
  'not-found': 'Not found',
  'stale-revision': 'Changed by somebody else meanwhile',
  conflict: 'Not possible now',
  'refused-media': 'This footage cannot be used',
  'too-large': 'Too large',
  'storage-full': 'The disk is full',
  unavailable: 'Something the server needs is not there',
  internal: 'Something went wrong on the server',
};

/** Database errors a client can do something about, by SQLSTATE class (PostgreSQL manual, appendix A). */
function fromDatabase(error: Error & { code?: string; detail?: string }): Refused | undefined {
  if (isDatabaseAway(error))
    return new Refused('unavailable', 'The database is not reachable. Nothing was changed; try again shortly.');
  if (isPoolEnded(error))
    return new Refused('unavailable', 'The server is being stopped. Nothing was changed; try again shortly.');
  // 40P01, 40001: it waited for somebody who waited for it, or came too late; only one of the two goes on
  if (error.code === '40P01' || error.code === '40001')
    return new Refused('unavailable', 'Somebody else changed the same at this moment. Nothing was changed; try again.');
  if (error.code === '23505')
    return new Refused(
      'conflict',
      `There is one of these already, made by somebody else or in another window: ` +
        `${(error.detail ?? error.message).replace(/\.$/, '')}. Look again and repeat what you did.`,
    );
  // 22P05, 22021: a text that PostgreSQL cannot hold; api/storableText.ts names its place before it gets here
  if (error.code === '22P05' || error.code === '22021')
    return new Refused('invalid-input', 'A text holds a character that cannot be stored.');
  if (error.code === '23503')
    return new Refused(
      'invalid-input',
      `This refers to something that does not exist: ${error.detail ?? error.message}.`,
    );
  // 53100: PostgreSQL's own disk
  if (error.code === '53100')
    return new Refused('storage-full', `The disk of the database is full: free some space. ${UNCHANGED}`);
  return undefined;
}
const UNCHANGED = 'Nothing was changed; try again afterwards.';

function fromDisk(error: Error): Refused | undefined {
  const fault = diskFaultOf(error);
  return fault && new Refused(fault.code, `${fault.detail} ${UNCHANGED}`);
}

/** Errors of the libraries in front of the handlers (Express, body-parser, send, multer), as refusals. */
function fromLibrary(error: Error & { status?: number; type?: string; limit?: number }): Refused | undefined {
  if (error instanceof MulterError) {
    const isSize = error.code === 'LIMIT_FILE_SIZE' || error.code === 'LIMIT_FILE_COUNT';
    return new Refused(isSize ? 'too-large' : 'invalid-input', error.message);
  }
  if (error.type === 'entity.parse.failed')
    return new Refused('invalid-input', `The body is not valid JSON: ${error.message}`);
  if (error.type === 'entity.too.large')
    return new Refused('too-large', `The body is over ${Math.round((error.limit ?? 0) / 1e6)} MB.`);
  if (error instanceof URIError) return new Refused('invalid-input', 'The address is not validly encoded.');
  const { status } = error;
  if (status === undefined || status < 400 || status >= 500) return undefined;
  if (status === 404) return new Refused('not-found', 'There is nothing at this address.');
  return new Refused('invalid-input', error.message, [], { status });
}

/** The problem details of any error; what was not foreseen says nothing about the inside. */
export function problemOf(error: unknown): Problem {
  const found = error instanceof Error && !(error instanceof Refused);
  const known = found ? (fromDatabase(error) ?? fromDisk(error) ?? fromLibrary(error)) : (error as Refused | undefined);
  const refused = known instanceof Refused ? known : undefined;
  const code = refused?.code ?? 'internal';
  return {
    type: `urn:mellow-hue:problem:${code}`,
    title: TITLE[code],
    status: refused?.status ?? STATUS[code],
    detail: refused?.message ?? 'An unexpected error; it has been logged.',
    code,
    errors: refused?.errors ?? [],
    ...(refused?.refused && { refused: refused.refused }),
    ...(refused?.current !== undefined && { current: refused.current }),
  };
}
