import { json, raw, type Request, type RequestHandler, type Response, type Router } from 'express';
import { ROUTES, type AnswerOf, type BodyOf, type Route, type RouteName } from '@mellow/contract';
import type { AppServices } from '../services.ts';
import type { Metrics } from './metrics.ts';
import { callerOf, type Caller } from '../people/caller.ts';
import { readBody } from './largeBody.ts';
import { parseInput } from './parseInput.ts';

type Handler<N extends RouteName> = (input: {
  body: BodyOf<N>;
  params: Record<string, string>;
  caller: Caller;
  request: Request;
  response: Response;
}) => Promise<AnswerOf<N> | undefined>;
/**
 * Registers a contract route: who asks must be allowed to (contract/rights), then what stands before the handler takes
 * its part, its body is parsed before the handler sees it, and its answer is sent as JSON with the route's status. A
 * route without an answer schema writes to the response itself.
 */
export type Register = <N extends RouteName>(name: N, handler: Handler<N>, ...before: RequestHandler[]) => void;

/** A note with forty lines drawn over the picture is the largest of what is no edit. */
const MOST_BODY_BYTES = 1e6;

/** Express path of a contract path: `/api/projects/{projectId}` → `/api/projects/:projectId`. */
const expressPath = (path: string): string => path.replaceAll(/\{(\w+)\}/g, ':$1');

export function registerOn(router: Router, services: AppServices, metrics: Pick<Metrics, 'timed'>): Register {
  return (name, handler, ...before) => {
    const route: Route = ROUTES[name];
    const callers = new WeakMap<Request, Caller>();
    // before anything of an upload is taken in
    const allowed: RequestHandler = async (request, _response, next) => {
      callers.set(request, await callerOf(services, name, request, request.params as Record<string, string>));
      next();
    };
    // what may have megabytes is not read before it is known how many it has
    if (route.maxBytes) before.unshift(raw({ type: 'application/json', limit: route.maxBytes }));
    else if (route.body) before.unshift(json({ limit: MOST_BODY_BYTES }));
    const bodyIn = async (body: unknown): Promise<unknown> => {
      if (!route.body) return undefined;
      return Buffer.isBuffer(body) ? readBody(name, body) : parseInput(route.body, body);
    };
    router[route.method](
      expressPath(route.path),
      metrics.timed(name),
      allowed,
      ...before,
      async (request, response) => {
        const body = (await bodyIn(request.body)) as BodyOf<typeof name>;
        const params = request.params as Record<string, string>;
        const answer = await handler({ body, params, caller: callers.get(request)!, request, response });
        if (route.answer) response.status(route.status ?? 200).json(answer);
      },
    );
  };
}
