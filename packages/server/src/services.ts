import type { RequestHandler } from 'express';
import type pg from 'pg';
import type { EventHub } from './api/events.ts';
import type { KeepingRules } from './keeping/rules.ts';
import type { SignIn } from './people/signIn.ts';
import type { MediaStore } from './media/store.ts';

/** What the routes of the application work with. */
export interface AppServices {
  pool: pg.Pool;
  store: MediaStore;
  events: EventHub;
  /** Left out: nobody signs in, everything is one person's. */
  signIn?: SignIn | undefined;
  /** Where people find this installation. */
  url: URL;
  /** What a monitor shows in place of signing in. */
  monitorToken?: string | undefined;
  /** Logs each request. */
  requestLog?: RequestHandler;
  /** Proxies whose word on who asks is taken, as Express' `trust proxy`. */
  proxies?: string | undefined;
  /** What may be used, and how long what is kept. */
  keeping: KeepingRules;
  log: { error: (o: object, m: string) => void };
}
