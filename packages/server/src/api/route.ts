import { json, type Request, type RequestHandler, type Response, type Router } from 'express';
import type { z } from 'zod';
import { ROUTES, unstorableAt, type AnswerOf, type BodyOf, type Route, type RouteName } from '@mellow/contract';
import { Refused } from '../errors.ts';
import type { AppServices } from '../services.ts';
import type { Metrics } from './metrics.ts';
import { callerOf, type Caller } from '../people/caller.ts';

/**
 * Parses with a contract schema; a mismatch is a refusal that names each field by its path. So is a text that cannot be
 * stored.
 */
export function parseInput<S extends z.ZodType>(schema: S, input: unknown): z.infer<S> {
  const unstorable = unstorableAt(input);
  if (unstorable !== undefined)
    throw new Refused('invalid-input', `${unstorable || 'body'}: holds a character that cannot be stored.`, [
      { path: unstorable, message: 'holds NUL or half of a character' },
    ]);
  const result = schema.safeParse(input);
  if (result.success) return result.data;
  const errors = result.error.issues
    .slice(0, 50)
    .map((issue) => ({ path: issue.path.join('.'), message: issue.message }));
  throw new Refused('invalid-input', errors.map((e) => `${e.path || 'body'}: ${e.message}`).join('; '), errors);
}

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
    if (route.body) before.unshift(json({ limit: route.maxBytes ?? MOST_BODY_BYTES }));
    router[route.method](
      expressPath(route.path),
      metrics.timed(name),
      allowed,
      ...before,
      async (request, response) => {
        const body = (route.body ? parseInput(route.body, request.body) : undefined) as BodyOf<typeof name>;
        const params = request.params as Record<string, string>;
        const answer = await handler({ body, params, caller: callers.get(request)!, request, response });
        if (route.answer) response.status(route.status ?? 200).json(answer);
      },
    );
  };
}
