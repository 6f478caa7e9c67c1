import type { Problem, ProblemCode, Stored } from '@mellow/contract';

const STATUS = {
  'invalid-input': 400,
  'not-found': 404,
  'stale-revision': 409,
  conflict: 409,
  'refused-media': 422,
  'too-large': 413,
  'storage-full': 507,
  unavailable: 503,
  internal: 500,
} as const satisfies Record<ProblemCode, number>;

const TITLE: Record<ProblemCode, string> = {
  'invalid-input': 'The request is not valid',
  'not-found': 'Not found',
  'stale-revision': 'Changed by somebody else meanwhile',
  conflict: 'Not possible now',
  'refused-media': 'This footage cannot be used',
  'too-large': 'Too large',
  'storage-full': 'The disk is full',
  unavailable: 'The database is not reachable',
  internal: 'Something went wrong on the server',
};

/** A foreseeable failure, said in plain words. */
export class Refused extends Error {
  readonly code: ProblemCode;
  readonly errors: { path: string; message: string }[];
  readonly current: unknown;
  constructor(code: ProblemCode, detail: string, errors: { path: string; message: string }[] = [], current?: unknown) {
    super(detail);
    this.code = code;
    this.errors = errors;
    this.current = current;
  }
}
export class NotFound extends Refused {
  constructor(what: string, id: string) {
    super('not-found', `There is no ${what} ${id}.`);
  }
}
export class StaleRevision extends Refused {
  constructor(kind: string, id: string, current: Stored<unknown> | undefined) {
    super(
      'stale-revision',
      `The ${kind} ${id} has changed since it was read${current ? `: it is at revision ${current.revision}` : ': it does not exist'}.`,
      [],
      current ?? null,
    );
  }
}

/** Database errors a client can do something about, by SQLSTATE class (PostgreSQL manual, appendix A). */
function fromDatabase(error: { code?: string; message: string; detail?: string }): Refused | undefined {
  if (!error.code) return undefined;
  if (
    ['ECONNREFUSED', 'ECONNRESET', 'ENOENT', '57P01', '57P03', '08006', '08001'].includes(error.code) &&
    !('path' in error)
  )
    return new Refused('unavailable', 'The database is not reachable. Nothing was changed; try again shortly.');
  if (error.code === '23505')
    return new Refused(
      'conflict',
      `There is one of these already, made by somebody else or in another window: ${(error.detail ?? error.message).replace(/\.$/, '')}. Look again and repeat what you did.`,
    );
  if (error.code === '23503')
    return new Refused(
      'invalid-input',
      `This refers to something that does not exist: ${error.detail ?? error.message}.`,
    );
  if (error.code === '53100' || error.code === 'ENOSPC')
    return new Refused('storage-full', 'The disk is full. Nothing was changed; free some space and try again.');
  return undefined;
}

/** The problem details of any error; what was not foreseen says nothing about the inside. */
export function problemOf(error: unknown): Problem {
  const known = error instanceof Refused ? error : error instanceof Error ? fromDatabase(error as never) : undefined;
  const code = known?.code ?? 'internal';
  return {
    type: `urn:mellow-hue:problem:${code}`,
    title: TITLE[code],
    status: STATUS[code],
    detail: known?.message ?? 'An unexpected error; it has been logged.',
    code,
    errors: known?.errors ?? [],
    ...(known?.current !== undefined && { current: known.current }),
  };
}
