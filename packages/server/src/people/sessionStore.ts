import connectPgSimple from 'connect-pg-simple';
import session, { type SessionData, type Store } from 'express-session';
import { LRUCache } from 'lru-cache';
import type pg from 'pg';

/** That a session is in use is noted once in so long: an answer waits for the note, which is written to disk. */
export const NOTED_MS = 60_000;
/** Where there are more sessions than so many, some are noted sooner. */
const MOST_KNOWN = 10_000;

interface Clock {
  now: () => number;
}
/** Sessions in the database. One may end NOTED_MS sooner after its last use than it should. */
class SessionStore extends connectPgSimple(session) {
  readonly #noted;
  constructor(pool: pg.Pool, perf: Clock) {
    super({ pool, tableName: 'session', errorLog: () => undefined });
    this.#noted = new LRUCache<string, true>({ max: MOST_KNOWN, ttl: NOTED_MS, ttlResolution: 0, perf });
  }
  override touch(sid: string, data: SessionData, done: (error?: unknown) => void = () => undefined): void {
    if (this.#noted.has(sid)) return done();
    super.touch(sid, data, (error?: unknown) => {
      if (!error) this.#noted.set(sid, true);
      done(error);
    });
  }
}
/** `clock`: ms since any moment. */
export const openSessionStore = (pool: pg.Pool, clock: Clock = performance): Store => new SessionStore(pool, clock);
