// How long a connection may take: as long as something comes.
import { createServer, type Server } from 'node:http';
import type { Express } from 'express';

/** A body of which nothing has come for so long is given up. */
const IDLE_MS = 120_000;
/** Longer than a page pauses between two requests: a connection closed just as it is taken again is an error there. */
const KEEP_ALIVE_MS = 75_000;

/**
 * An HTTP server of an application. Node's own limit on a whole request, five minutes, would cut the upload of any film
 * that takes longer; what counts here is that bytes keep coming. What comes after the body, an import say, takes its
 * time.
 */
export function httpServer(app: Express, idleMs = IDLE_MS): Server {
  return createServer({ requestTimeout: 0, keepAliveTimeout: KEEP_ALIVE_MS }, (request, response) => {
    if (request.method !== 'GET') {
      request.setTimeout(idleMs, () => request.destroy(new Error('nothing has come for too long')));
      request.once('end', () => request.setTimeout(0));
    }
    app(request, response);
  });
}
