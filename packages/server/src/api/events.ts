import type { Response } from 'express';
import pgListen from 'pg-listen';
import { EVENTS, type EventName, type Here, type Person, type Presence } from '@mellow/contract';
import { CHANNEL } from '../db/notify.ts';

interface Message {
  projectId: string;
  event: EventName;
  data: unknown;
}

/** An open page, and whose it is. */
interface Listener extends Here {
  response: Response;
  /** Takes it off the list. */
  leave: () => void;
  person: Person | null;
}

// the package is CommonJS: its function is the default of its default
const createSubscriber = (pgListen as unknown as { default?: typeof pgListen }).default ?? pgListen;

/** Passes database notifications on to browsers as server-sent events, so that any process may cause one. */
export class EventHub {
  readonly #listeners = new Map<string, Set<Listener>>();
  readonly #subscriber;

  constructor(connectionString: string) {
    // a lost connection is made again for as long as it takes; the first one must succeed
    this.#subscriber = createSubscriber({ connectionString }, { retryTimeout: 0, retryInterval: 500 });
    this.#subscriber.notifications.on(CHANNEL, (message: Message) => this.#send(message));
    // what cannot be mended is tried again by the subscriber itself; a payload that is not ours is passed over
    this.#subscriber.events.on('error', () => undefined);
    let isFirst = true;
    this.#subscriber.events.on('connected', () => {
      // what was told while the connection was away is lost: everybody looks again
      if (!isFirst)
        for (const projectId of this.#listeners.keys()) this.#send({ projectId, event: 'missed', data: {} });
      isFirst = false;
    });
  }

  /** Listens until closed. */
  async open(): Promise<void> {
    await this.#subscriber.connect();
    await this.#subscriber.listenTo(CHANNEL);
  }

  #send({ projectId, event, data }: Message): void {
    if (!(event in EVENTS)) return;
    for (const { response } of this.#listeners.get(projectId) ?? [])
      response.write(`event: ${event}\ndata: ${JSON.stringify(data)}\n\n`);
  }

  #tellPresent(projectId: string): void {
    const listeners = [...(this.#listeners.get(projectId) ?? [])];
    const people = listeners.flatMap(({ person, page, shotId }): Presence[] =>
      person ? [{ page, shotId, personId: person.id, name: person.name }] : [],
    );
    this.#send({ projectId, event: 'present', data: { here: listeners.length, people } });
  }

  /** Open pages, of all projects. */
  get listening(): number {
    return [...this.#listeners.values()].reduce((sum, set) => sum + set.size, 0);
  }

  /** Keeps the response open and writes the project's events to it. `page`: the id that the page gave itself. */
  subscribe(projectId: string, response: Response, page: string, person: Person | null): void {
    response.writeHead(200, {
      'Content-Type': 'text/event-stream',
      'Cache-Control': 'no-store',
      Connection: 'keep-alive',
      'X-Accel-Buffering': 'no',
    });
    response.write('retry: 1000\n\n');
    const set = this.#listeners.get(projectId) ?? new Set();
    const listener: Listener = { response, page, person, shotId: null, leave: () => undefined };
    this.#listeners.set(projectId, set.add(listener));
    this.#tellPresent(projectId);
    const pulse = setInterval(() => response.write(': still here\n\n'), 15_000);
    // nothing is written any more from when it is ended on, and that may be before it is closed
    listener.leave = () => {
      clearInterval(pulse);
      if (!set.delete(listener)) return;
      if (set.size === 0) this.#listeners.delete(projectId);
      else this.#tellPresent(projectId);
    };
    response.on('close', listener.leave);
  }

  /** A page has gone to another shot. Only whose page it is can say so. */
  moved(projectId: string, { page, shotId }: Here, person: Person | null): void {
    for (const listener of this.#listeners.get(projectId) ?? [])
      if (listener.page === page && listener.person?.id === person?.id) listener.shotId = shotId;
    this.#tellPresent(projectId);
  }

  /** Ends what somebody hears: whoever still may hear it asks again at once. */
  endOf(personId: string): void {
    for (const set of [...this.#listeners.values()])
      for (const { person, response, leave } of [...set])
        if (person?.id === personId) {
          leave();
          response.end();
        }
  }

  async close(): Promise<void> {
    for (const set of [...this.#listeners.values()])
      for (const { response, leave } of [...set]) {
        leave();
        response.end();
      }
    await this.#subscriber.close().catch(() => undefined);
  }
}
