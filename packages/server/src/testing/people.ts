// Browsers of people, for tests: each keeps its cookie.
import {
  ROUTES,
  type AnswerOf,
  type BodyOf,
  type Person,
  type PersonKind,
  type Route,
  type RouteName,
} from '@mellow/contract';
import { addPerson } from '../db/people.ts';
import { hashedPassword } from '../people/signIn.ts';
import type { Harness } from './harness.ts';

export const PASSWORD = 'a long enough one';

/** An account that can sign in with PASSWORD. */
export async function account({ pool }: Harness, login: string, kind: PersonKind): Promise<Person> {
  const name = login[0]!.toUpperCase() + login.slice(1);
  const person = await addPerson(pool, { login, name, kind });
  await pool.query('update person set password = $2 where id = $1', [person.id, await hashedPassword(PASSWORD)]);
  return person;
}

export interface Browser {
  cookie: string;
  /** Sends a contract request; whatever the answer. */
  send: (name: RouteName, params?: Record<string, string>, body?: unknown) => Promise<Response>;
  /** Sends one that must be answered as agreed. */
  call: <N extends RouteName>(name: N, params?: Record<string, string>, body?: BodyOf<N>) => Promise<AnswerOf<N>>;
}
export function browser(h: Harness): Browser {
  const self: Browser = {
    cookie: '',
    send: async (name, params = {}, body) => {
      const route: Route = ROUTES[name];
      const path = route.path.replaceAll(/\{(\w+)\}/g, (_, key: string) => params[key] ?? '');
      const response = await fetch(h.url + path, {
        method: route.method.toUpperCase(),
        redirect: 'manual',
        headers: {
          connection: 'close',
          cookie: self.cookie,
          ...(body !== undefined && { 'content-type': 'application/json' }),
        },
        ...(body !== undefined && { body: JSON.stringify(body) }),
      });
      const set = response.headers.get('set-cookie');
      if (set) self.cookie = set.split(';')[0]!;
      return response;
    },
    call: async (name, params, body) => {
      const route: Route = ROUTES[name];
      const response = await self.send(name, params, body);
      if (response.status !== (route.status ?? 200))
        throw new Error(`${name} answered ${response.status}: ${await response.text()}`);
      return route.answer!.parse(await response.json()) as never;
    },
  };
  return self;
}
/** Somebody new, signed in. */
export async function signedIn(h: Harness, login: string, kind: PersonKind): Promise<Browser & { person: Person }> {
  const person = await account(h, login, kind);
  const own = browser(h);
  await own.call('signIn', {}, { login, password: PASSWORD });
  return Object.assign(own, { person });
}
