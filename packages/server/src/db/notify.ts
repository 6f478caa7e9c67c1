import type { EventName, EventData } from '@mellow/contract';
import type { Queryable } from './pool.ts';

/**
 * The channel of all that browsers are told. PostgreSQL refuses a notification of 8000 bytes or more: nothing that
 * grows with an edit may go into one.
 */
export const CHANNEL = 'mellow_events';

/** What pg_notify is called with. */
export const notification = <E extends EventName>(
  projectId: string,
  event: E,
  data: EventData<E>,
): [channel: string, payload: string] => [CHANNEL, JSON.stringify({ projectId, event, data })];

/** Tells every browser that has the project open. Within a transaction it is told when that commits. */
export async function notify<E extends EventName>(
  db: Queryable,
  projectId: string,
  event: E,
  data: EventData<E>,
): Promise<void> {
  await db.query('select pg_notify($1, $2)', notification(projectId, event, data));
}
