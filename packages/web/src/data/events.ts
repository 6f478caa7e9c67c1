// What the server tells while a project is open, taken into what the page has.
import { EVENTS, type EventData, type EventName } from '@mellow/contract';
import { pageId } from './page.ts';
import { addressOf } from './requests.ts';

export type EventHandlers = { [E in EventName]: (data: EventData<E>) => void };

/** Reads one event's text; what is not as agreed is passed over. */
export function parsedEvent<E extends EventName>(name: E, text: string): EventData<E> | undefined {
  try {
    return EVENTS[name].safeParse(JSON.parse(text)).data as EventData<E> | undefined;
  } catch {
    return undefined;
  }
}

/** How long it is waited for a first word of the server, and with a connection that it has refused. */
const PATIENCE_MS = 2000;
const REFUSED_MS = 5000;

/** What is told of the connection itself. */
export interface Hearing {
  /** It stands: from now on everything is heard. What was told before, of that nothing is known. */
  stands: () => void;
  /** It does not stand yet, or not any more; it is being made. May be said several times. */
  fails: () => void;
}

/**
 * Hears the project's events until the returned function is called. A connection that is lost is made again, by the
 * browser, and where the server refused it (its database may be away) after a while.
 */
export function hearEvents(
  projectId: string,
  handlers: EventHandlers,
  { stands, fails }: Hearing,
  open = (url: string) => new EventSource(url),
): () => void {
  let source: EventSource;
  let timer = setTimeout(fails, PATIENCE_MS);
  const connect = () => {
    source = open(addressOf('events', { projectId }, { page: pageId }));
    for (const name of Object.keys(EVENTS) as EventName[])
      source.addEventListener(name, (event) => {
        const data = parsedEvent(name, (event as MessageEvent<string>).data);
        if (data !== undefined) (handlers[name] as (data: unknown) => void)(data);
      });
    source.onopen = () => {
      clearTimeout(timer);
      stands();
    };
    source.onerror = () => {
      clearTimeout(timer);
      if (source.readyState === CLOSED) timer = setTimeout(connect, REFUSED_MS);
      fails();
    };
  };
  connect();
  return () => {
    clearTimeout(timer);
    source.close();
  };
}
/** `EventSource.CLOSED`: the browser tries no more. */
const CLOSED = 2;
