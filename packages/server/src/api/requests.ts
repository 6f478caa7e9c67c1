// Every request has an id: in its answer, and in what is logged of it.
import { randomUUID } from 'node:crypto';
import type { RequestHandler } from 'express';
import type { Logger } from 'pino';
import { pinoHttp } from 'pino-http';

/**
 * Logs what changes something and what fails, by method, address, status and time; not the pictures that pages read by
 * the thousand, and nothing of bodies, cookies or answers. The secret of a link is left out of its address.
 */
export const loggedRequests = (logger: Logger): RequestHandler =>
  pinoHttp({
    logger,
    genReqId: (_request, response) => {
      const id = randomUUID();
      response.setHeader('X-Request-Id', id);
      return id;
    },
    customLogLevel: ({ method }, { statusCode }, error) => {
      if (error || statusCode >= 500) return 'error';
      if (statusCode >= 400) return 'warn';
      return method === 'GET' || method === 'HEAD' ? 'silent' : 'info';
    },
    serializers: {
      req: ({ id, method, url }: { id: string; method: string; url: string }) => ({
        id,
        method,
        url: withoutSecret(url),
      }),
      res: ({ statusCode }: { statusCode: number }) => ({ statusCode }),
    },
  });

/** An address without what lets in who knows it. */
export const withoutSecret = (url: string): string =>
  url.replace(/\/(reviews|invitations)\/[^/?]+/, '/$1/…').replace(/\?.*$/, '');
