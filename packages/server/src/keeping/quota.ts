import { stat } from 'node:fs/promises';
import { footageBytesOf } from '../db/space.ts';
import type { Queryable } from '../db/pool.ts';
import { Refused } from '../errors.ts';
import type { KeepingRules } from './rules.ts';

const gigabytes = (bytes: number): string => `${(bytes / 1e9).toFixed(1)} GB`;

/** Throws Refused where files are more than a project may have beside its footage. */
export async function assertProjectHasRoom(
  db: Queryable,
  { projectBytes }: KeepingRules,
  projectId: string,
  files: readonly { path: string }[],
): Promise<void> {
  if (projectBytes === undefined) return;
  let coming = 0;
  for (const { path } of files) coming += (await stat(path)).size;
  const has = await footageBytesOf(db, projectId);
  if (has + coming <= projectBytes) return;
  throw new Refused(
    'too-large',
    `A project may have ${gigabytes(projectBytes)} of footage here; this one has ${gigabytes(has)}, ` +
      `and ${gigabytes(coming)} would come to it.`,
  );
}

/** Throws Refused where a file is more than somebody may have on the way beside what is. */
export function assertMaySend(mostBytes: number, has: number, bytes: number): void {
  if (has + bytes <= mostBytes) return;
  throw new Refused(
    'too-large',
    `Of one person ${gigabytes(mostBytes)} may be on the way here; ${gigabytes(has)} are, ` +
      `and this is ${gigabytes(bytes)}. Bring in what has been sent, or drop it.`,
  );
}
