// Who asks, and whether they may.
import type { Request } from 'express';
import { includesRole, RIGHTS, type Need, type Person, type Role, type RouteName } from '@mellow/contract';
import { LOCAL, type Author } from '../db/author.ts';
import { findDelivery } from '../db/deliveries.ts';
import { findJob } from '../db/jobs.ts';
import { foreignMedia, giveRole, isEditorAnywhere, roleIn } from '../db/people.ts';
import type { Queryable } from '../db/pool.ts';
import { NotFound, Refused } from '../errors.ts';
import type { AppServices } from '../services.ts';
import { assertId } from '../api/ids.ts';
import { hasMonitorToken } from '../api/metrics.ts';

export interface Caller {
  /** Null where nobody signs in, or nobody has. */
  person: Person | null;
  author: Author;
  /** In the project that the address names; *editor* where nobody signs in. */
  role: Role | undefined;
  /** May do all there is, in every project: nobody signs in here, or an admin. */
  isFree: boolean;
}
const FREE: Caller = { person: null, author: LOCAL, role: 'editor', isFree: true };

const callers = new WeakMap<Request, Person>();
/** Notes whose request it is, once their session is known. */
export const signedBy = (request: Request, person: Person): void => void callers.set(request, person);
export const signerOf = (request: Request): Person | undefined => callers.get(request);

const isRole = (need: Need): need is Role => need === 'viewer' || need === 'reviewer' || need === 'editor';
const notAllowed = (what: string): Refused => new Refused('not-allowed', what);

/** What an address names, and the project that it belongs to. */
interface Named {
  projectId: string;
  what: string;
  id: string;
}
async function named(db: Queryable, params: Record<string, string>): Promise<Named> {
  if (params.projectId !== undefined) {
    const projectId = assertId('project', params.projectId);
    return { projectId, what: 'project', id: projectId };
  }
  const what = params.jobId === undefined ? 'delivery' : 'job';
  const id = assertId(what, params.jobId ?? params.deliveryId);
  const found = what === 'job' ? (await findJob(db, id))?.job : await findDelivery(db, id);
  if (!found?.projectId) throw new NotFound(what, id);
  return { projectId: found.projectId, what, id };
}

/** Footage lies in every project that has a shot of it: who may see one of them may see it. */
async function assertSeesMedia(db: Queryable, mediaId: string | undefined, person: Person): Promise<void> {
  const foreign = await foreignMedia(db, [assertId('media', mediaId)], person.id);
  if (foreign.length > 0) throw new NotFound('media', String(mediaId));
}

/** Somebody's role in the project of what they name. To who has none in it, it is not there. Throws NotFound. */
async function roleOrNotFound(db: Queryable, { projectId, what, id }: Named, person: Person): Promise<Role> {
  const role = await roleIn(db, projectId, person.id);
  if (!role) throw new NotFound(what, id);
  return role;
}

/** Throws where who asks may not see a project, which their request names in its body. */
export async function assertSees(db: Queryable, { isFree, person }: Caller, projectId: string): Promise<void> {
  if (!isFree) await roleOrNotFound(db, { projectId, what: 'project', id: projectId }, person!);
}
/** May who asks see all of this footage? */
export async function seesMedia(
  db: Queryable,
  { isFree, person }: Caller,
  mediaIds: readonly string[],
): Promise<boolean> {
  return isFree || mediaIds.length === 0 || (await foreignMedia(db, mediaIds, person!.id)).length === 0;
}
/** Throws where a request brings footage into a project that lies in none of those that who asks may see. */
export async function assertOwnMedia(db: Queryable, caller: Caller, mediaIds: readonly string[]): Promise<void> {
  if (await seesMedia(db, caller, mediaIds)) return;
  throw new NotFound('media', (await foreignMedia(db, mediaIds, caller.person!.id)).join(', '));
}

/**
 * Who asks for an operation of the contract; throws Refused where they may not: 401 before signing in, 404 for what is
 * in no project of theirs, 403 for what their role does not hold.
 */
export async function callerOf(
  { pool, signIn, monitorToken }: AppServices,
  name: RouteName,
  request: Request,
  params: Record<string, string>,
): Promise<Caller> {
  if (!signIn) return FREE;
  const need: Need = RIGHTS[name];
  const person = signerOf(request) ?? null;
  const author = { id: person?.id ?? null, name: person?.name ?? 'somebody with a link' };
  const caller: Caller = { person, author, role: undefined, isFree: false };
  if (need === 'anyone' || need === 'link') return caller;
  if (name === 'metrics' && hasMonitorToken(request, monitorToken)) return caller;
  if (!person) throw new Refused('signed-out', 'Sign in first.');
  if (person.kind === 'admin') return { ...caller, role: 'editor', isFree: true };
  if (need === 'person') return caller;
  if (need === 'admin') throw notAllowed('Only who keeps the accounts may do this.');
  if (need === 'member') {
    if (person.kind === 'member') return caller;
    throw notAllowed('Guests work in the projects that they were given: this is for the house.');
  }
  if (need === 'contributor') {
    if (person.kind === 'member' || (await isEditorAnywhere(pool, person.id))) return caller;
    throw notAllowed('Only who edits in some project may send files.');
  }
  if (!isRole(need)) throw notAllowed('This is not allowed.');
  if (params.projectId === undefined && params.mediaId !== undefined) {
    await assertSeesMedia(pool, params.mediaId, person);
    return caller;
  }
  const role = await roleOrNotFound(pool, await named(pool, params), person);
  if (!includesRole(role, need)) throw notAllowed(`You are a ${role} of this project; this is for its ${need}s.`);
  return { ...caller, role };
}

/** Whoever makes a project is its editor. */
export async function ownProject(db: Queryable, projectId: string, { person }: Caller): Promise<void> {
  if (person) await giveRole(db, projectId, person.id, 'editor');
}
