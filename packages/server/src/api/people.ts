// Signing in and out, the accounts of the house, and who works in a project.
import type { Request } from 'express';
import type { Me } from '@mellow/contract';
import {
  acceptInvitation,
  addPerson,
  changePerson,
  endSessions,
  findByProvider,
  findInvited,
  findPerson,
  giveRole,
  insertInvitation,
  listMembers,
  listPeople,
} from '../db/people.ts';
import { notify } from '../db/notify.ts';
import { inTransaction } from '../db/pool.ts';
import { assertProject } from '../db/projects.ts';
import { NotFound, Refused } from '../errors.ts';
import type { AppServices } from '../services.ts';
import { signerOf } from '../people/caller.ts';
import { assertId } from './ids.ts';
import type { Register } from './route.ts';
import { hashedPassword, type SignIn } from '../people/signIn.ts';

const USED = 'This invitation has been used, replaced or has expired. Ask for a new one.';

function signInRoutes(register: Register, { pool, signIn, url, events }: AppServices): void {
  const me = (request: Request): Me => ({
    isAsked: signIn !== undefined,
    person: signerOf(request) ?? null,
    provider: signIn?.provider?.name ?? null,
  });
  const asked = (): SignIn => {
    if (!signIn) throw new Refused('conflict', 'Nobody signs in here: the server answers to this machine only.');
    return signIn;
  };
  const provider = () => {
    const found = asked().provider;
    if (!found) throw new Refused('conflict', 'No provider is set up to sign in with.');
    return found;
  };
  const returnTo = () => new URL('/api/sign-in/provider/return', url);

  register('me', async ({ request }) => me(request));
  register('signIn', async ({ request, body }) => {
    await asked().begin(request, await asked().check(request, body));
    return me(request);
  });
  register('signOut', async ({ request }) => {
    const person = signerOf(request);
    await asked().end(request);
    if (person) events.endOf(person.id);
    return { ...me(request), person: null };
  });
  register('signInElsewhere', async ({ request, response }) => {
    const { to, away } = await provider().leave(returnTo());
    await asked().leave(request, away);
    response.redirect(to.href);
    return undefined;
  });
  register('signedInElsewhere', async ({ request, response }) => {
    const at = new URL(request.originalUrl, url);
    const { subject, email } = await provider().welcome(request, at);
    const person = await findByProvider(pool, subject, email);
    if (!person)
      throw new Refused('not-allowed', `No account here is yours${email ? ` (${email})` : ''}. Ask who keeps them.`);
    await asked().begin(request, person);
    response.redirect('/');
    return undefined;
  });
  register('findInvitation', async ({ params }) => {
    const found = await findInvited(pool, params.token ?? '');
    if (!found) throw new Refused('not-found', USED);
    return { name: found.name, login: found.login };
  });
  register('acceptInvitation', async ({ request, params, body }) => {
    asked();
    if (!(await findInvited(pool, params.token ?? ''))) throw new Refused('not-found', USED);
    const password = await hashedPassword(body.password);
    const person = await inTransaction(pool, async (db) => {
      const found = await acceptInvitation(db, params.token ?? '', password);
      // a new password ends what was begun with the old one
      if (found) await endSessions(db, found.id);
      return found;
    });
    if (!person) throw new Refused('not-found', USED);
    await asked().begin(request, person);
    return me(request);
  });
}

function accountRoutes(register: Register, { pool, events }: AppServices): void {
  register('listPeople', () => listPeople(pool));
  register('addPerson', ({ body }) =>
    inTransaction(pool, async (db) => {
      const person = await addPerson(db, body);
      return { person, ...(await insertInvitation(db, person.id)) };
    }),
  );
  register('changePerson', async ({ params, body }) => {
    const id = assertId('person', params.personId);
    const person = await inTransaction(pool, async (db) => {
      const changed = await changePerson(db, id, body);
      if (!changed.isActive) await endSessions(db, id);
      return changed;
    });
    // who is connected hears no more than they now may
    events.endOf(id);
    return person;
  });
  register('invite', async ({ params }) => {
    const person = await findPerson(pool, assertId('person', params.personId));
    if (!person) throw new NotFound('person', String(params.personId));
    return { person, ...(await insertInvitation(pool, person.id)) };
  });
}

function memberRoutes(register: Register, { pool, events }: AppServices): void {
  const asserted = async (id: string | undefined): Promise<string> => {
    await assertProject(pool, assertId('project', id));
    return id!;
  };
  register('listMembers', async ({ params }) => listMembers(pool, await asserted(params.projectId)));
  register('giveRole', async ({ params, body }) => {
    const projectId = await asserted(params.projectId);
    await giveRole(pool, projectId, body.personId, body.role);
    await notify(pool, projectId, 'missed', {});
    events.endOf(body.personId);
    return listMembers(pool, projectId);
  });
}

export function peopleRoutes(register: Register, services: AppServices): void {
  signInRoutes(register, services);
  accountRoutes(register, services);
  memberRoutes(register, services);
}
