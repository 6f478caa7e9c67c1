// Foreseeable failures, thrown anywhere in the server; api/problem.ts turns them into answers.
import type { ProblemCode, RefusedFile, Stored } from '@mellow/contract';

interface RefusedMore {
  current?: unknown;
  status?: number;
  refused?: RefusedFile[];
  retryAfterSeconds?: number;
}
/** A foreseeable failure, said in plain words. */
export class Refused extends Error {
  readonly code: ProblemCode;
  readonly errors: { path: string; message: string }[];
  readonly current: unknown;
  /** Files that were sent and not taken in. */
  readonly refused: RefusedFile[] | undefined;
  /** HTTP status where it says more than the code's own; set for what the libraries in front of the handlers refuse. */
  readonly status: number | undefined;
  /** When it is worth trying again. */
  readonly retryAfterSeconds: number | undefined;
  constructor(
    code: ProblemCode,
    detail: string,
    errors: { path: string; message: string }[] = [],
    { current, status, refused, retryAfterSeconds }: RefusedMore = {},
  ) {
    super(detail);
    this.status = status;
    this.retryAfterSeconds = retryAfterSeconds;
    this.refused = refused;
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
      `The ${kind} ${id} has changed since it was ` +
        `read${current ? `: it is at revision ${current.revision}` : ': it does not exist'}.`,
      [],
      { current: current ?? null },
    );
  }
}
