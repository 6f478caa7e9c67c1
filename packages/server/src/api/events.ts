import type { Response } from 'express';
import pg from 'pg';

interface Message {
  projectId: string;
  event: string;
  data: unknown;
}

/** Passes database notifications on to browsers as server-sent events, so that any process may cause one. */
export class EventHub {
  readonly #listeners = new Map<string, Set<Response>>();
  readonly #connectionString: string;
  #client: pg.Client | undefined;
  #closed = false;

  constructor(connectionString: string) {
    this.#connectionString = connectionString;
  }

  /** Listens until closed; a lost connection is made again every second. */
  async open(): Promise<void> {
    const client = new pg.Client({ connectionString: this.#connectionString });
    client.on('error', () => undefined);
    client.on('end', () => {
      if (!this.#closed && this.#client === client) setTimeout(() => void this.open().catch(() => undefined), 1000);
    });
    client.on('notification', ({ payload }) => payload && this.#send(JSON.parse(payload) as Message));
    this.#client = client;
    try {
      await client.connect();
      await client.query('listen mellow_events');
    } catch (error) {
      if (this.#listeners.size === 0) throw error;
      setTimeout(() => void (!this.#closed && this.open().catch(() => undefined)), 1000);
    }
  }

  #send({ projectId, event, data }: Message): void {
    for (const response of this.#listeners.get(projectId) ?? [])
      response.write(`event: ${event}\ndata: ${JSON.stringify(data)}\n\n`);
  }

  /** Keeps the response open and writes the project's events to it. */
  subscribe(projectId: string, response: Response): void {
    response.writeHead(200, {
      'Content-Type': 'text/event-stream',
      'Cache-Control': 'no-store',
      Connection: 'keep-alive',
      'X-Accel-Buffering': 'no',
    });
    response.write('retry: 1000\n\n');
    const set = this.#listeners.get(projectId) ?? new Set();
    this.#listeners.set(projectId, set.add(response));
    const pulse = setInterval(() => response.write(': still here\n\n'), 15_000);
    response.on('close', () => {
      clearInterval(pulse);
      set.delete(response);
    });
  }

  async close(): Promise<void> {
    this.#closed = true;
    for (const set of this.#listeners.values()) for (const response of set) response.end();
    await this.#client?.end().catch(() => undefined);
  }
}
