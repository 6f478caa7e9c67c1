import type pg from 'pg';
import type { EventHub } from './api/events.ts';
import type { MediaStore } from './media/store.ts';

/** What the routes of the application work with. */
export interface AppServices {
  pool: pg.Pool;
  store: MediaStore;
  events: EventHub;
  log: { error: (o: object, m: string) => void };
}
