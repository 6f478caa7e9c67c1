// Coming in and staying in: sessions in the database, passwords hashed, guesses counted.
import { randomBytes } from 'node:crypto';
import { hash, verify } from '@node-rs/argon2';
import type { Request, RequestHandler } from 'express';
import session from 'express-session';
import type pg from 'pg';
import {
  RateLimiterMemory,
  RateLimiterPostgres,
  RateLimiterRes,
  type RateLimiterAbstract,
} from 'rate-limiter-flexible';
import type { Credentials, Person } from '@mellow/contract';
import { findPassword, findPerson } from '../db/people.ts';
import { Refused } from '../errors.ts';
import { signedBy } from './caller.ts';
import type { Away, Provider } from './provider.ts';
import { openSessionStore } from './sessionStore.ts';

declare module 'express-session' {
  interface SessionData {
    personId: string;
    away: Away;
  }
}

export interface SignInOptions {
  /** Where people find this installation: its scheme says whether cookies are for TLS only. */
  url: URL;
  /** Signs the cookies: 32 random bytes or more. */
  secret: string;
  provider?: Provider | undefined;
  changesAMinute?: { signedIn: number; without: number } | undefined;
}
export interface SignIn {
  provider: Provider | undefined;
  /** Knows who sends a request by its cookie. */
  identify: RequestHandler[];
  /** Who has these credentials; throws Refused, after some wrong guesses without looking. */
  check: (request: Request, credentials: Credentials) => Promise<Person>;
  /** From here on the requests of this browser are this person's, under a new session. */
  begin: (request: Request, person: Person) => Promise<void>;
  end: (request: Request) => Promise<void>;
  /** Keeps what somebody who leaves for the provider must come back with; they may be back at once. */
  leave: (request: Request, away: Away) => Promise<void>;
}

/** A day's work between two requests; then one signs in again. */
const IDLE_MS = 14 * 3600 * 1000;
const COOKIE = 'mellow-session';

/** As many wrong guesses as are forgiven: of one login from one place, from one place, of one login from anywhere. */
const GUESSES = [
  { name: 'login at address', points: 10, duration: 15 * 60 },
  { name: 'address', points: 100, duration: 3600 },
  { name: 'login', points: 200, duration: 24 * 3600 },
] as const;
/** Requests that change something, of one person or, without an account, of one address, in a minute. */
const CHANGES_A_MINUTE = { signedIn: 1200, without: 120 };

export const hashedPassword = (password: string): Promise<string> => hash(password);

const tooMany = (error: unknown): unknown =>
  error instanceof RateLimiterRes
    ? new Refused('too-many', `Too many tries. Wait ${Math.ceil(error.msBeforeNext / 60_000)} minutes.`, [], {
        retryAfterSeconds: Math.ceil(error.msBeforeNext / 1000),
      })
    : error;
const take = (limiter: RateLimiterAbstract, key: string): Promise<unknown> =>
  limiter.consume(key).catch((error: unknown) => {
    throw tooMany(error);
  });

function guessLimits(pool: pg.Pool) {
  const limiters = GUESSES.map(
    ({ name, ...limit }) =>
      new RateLimiterPostgres({
        storeClient: pool,
        tableName: 'sign_in_attempt',
        tableCreated: true,
        keyPrefix: name,
        ...limit,
      }),
  );
  const keysOf = (request: Request, login: string): string[] => {
    const address = request.ip ?? '';
    return [`${login} ${address}`, address, login];
  };
  return {
    /** Counts a guess before it is looked at, so that many at once are no more than as many one by one. */
    count: async (request: Request, login: string): Promise<void> => {
      for (const [i, key] of keysOf(request, login).entries()) await take(limiters[i]!, key);
    },
    /** A right one is no guess. */
    forgive: async (request: Request, login: string): Promise<void> => {
      for (const [i, key] of keysOf(request, login).entries()) await limiters[i]!.reward(key);
    },
  };
}

/** Refuses who changes more in a minute than hands can. */
function changeLimit({ signedIn, without } = CHANGES_A_MINUTE): RequestHandler {
  const limits = {
    signedIn: new RateLimiterMemory({ points: signedIn, duration: 60 }),
    without: new RateLimiterMemory({ points: without, duration: 60 }),
  };
  return async (request, _response, next) => {
    const { personId } = request.session;
    if (request.method !== 'GET')
      await (personId ? take(limits.signedIn, personId) : take(limits.without, request.ip ?? ''));
    next();
  };
}

export async function openSignIn(
  pool: pg.Pool,
  { url, secret, provider, changesAMinute }: SignInOptions,
): Promise<SignIn> {
  const isSecure = url.protocol === 'https:';
  const sessions = session({
    store: openSessionStore(pool),
    secret,
    name: COOKIE,
    resave: false,
    saveUninitialized: false,
    rolling: true,
    // lax, not strict: who comes back from the provider comes from another site
    cookie: { httpOnly: true, sameSite: 'lax', secure: isSecure, maxAge: IDLE_MS },
  });
  const guesses = guessLimits(pool);
  // what is compared where there is no such login takes as long as where there is one
  const nobodys = await hashedPassword(randomBytes(16).toString('hex'));
  const known: RequestHandler = async (request, _response, next) => {
    const person = request.session.personId && (await findPerson(pool, request.session.personId));
    if (person && person.isActive) signedBy(request, person);
    next();
  };
  return {
    provider,
    identify: [sessions, changeLimit(changesAMinute), known],
    check: async (request, { login, password }) => {
      await guesses.count(request, login);
      const found = await findPassword(pool, login);
      const isRight = await verify(found?.password ?? nobodys, password);
      const person = found && isRight && (await findPerson(pool, found.id));
      if (!person) throw new Refused('not-allowed', 'Name and password do not go together.');
      await guesses.forgive(request, login);
      return person;
    },
    begin: async (request, person) => {
      if (isSecure && !request.secure)
        throw new Refused(
          'invalid-input',
          'This installation is opened by https; the proxy before it must say so (X-Forwarded-Proto).',
        );
      // a session that somebody else may have planted is not signed in
      await new Promise<void>((resolve, reject) =>
        request.session.regenerate((error: unknown) => (error ? reject(asError(error)) : resolve())),
      );
      request.session.personId = person.id;
      signedBy(request, person);
      await saved(request);
    },
    leave: (request, away) => {
      request.session.away = away;
      return saved(request);
    },
    end: (request) =>
      new Promise((resolve, reject) =>
        request.session.destroy((error: unknown) => (error ? reject(asError(error)) : resolve())),
      ),
  };
}
/** The session's own saving begins when the answer has already gone out. */
const saved = (request: Request): Promise<void> =>
  new Promise((resolve, reject) =>
    request.session.save((error: unknown) => (error ? reject(asError(error)) : resolve())),
  );
const asError = (error: unknown): Error => (error instanceof Error ? error : new Error(String(error)));
