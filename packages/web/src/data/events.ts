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

/**
 * Hears the project's events until the returned function is called. `again`: the connection was lost and stands again.
 */
export function hearEvents(
  projectId: string,
  handlers: EventHandlers,
  again: () => void,
  open = (url: string) => new EventSource(url),
): () => void {
  const source = open(addressOf('events', { projectId }, { page: pageId }));
  for (const name of Object.keys(EVENTS) as EventName[])
    source.addEventListener(name, (event) => {
      const data = parsedEvent(name, (event as MessageEvent<string>).data);
      if (data !== undefined) (handlers[name] as (data: unknown) => void)(data);
    });
  let opened = false;
  source.onopen = () => {
    if (opened) again();
    opened = true;
  };
  return () => source.close();
}
