import type { Request, RequestHandler, Response, Router } from 'express';
import type { z } from 'zod';
import { ROUTES, unstorableAt, type AnswerOf, type BodyOf, type Route, type RouteName } from '@mellow/contract';
import { Refused } from '../errors.ts';

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
  request: Request;
  response: Response;
}) => Promise<AnswerOf<N> | undefined>;

/** Express path of a contract path: `/api/projects/{projectId}` → `/api/projects/:projectId`. */
const expressPath = (path: string): string => path.replaceAll(/\{(\w+)\}/g, ':$1');

/**
 * Registers a contract route: its body is parsed before the handler sees it, its answer sent as JSON with the route's
 * status. A route without an answer schema writes to the response itself.
 */
export function register<N extends RouteName>(
  router: Router,
  name: N,
  handler: Handler<N>,
  ...before: RequestHandler[]
): void {
  const route: Route = ROUTES[name];
  router[route.method](expressPath(route.path), ...before, async (request, response) => {
    const body = (route.body ? parseInput(route.body, request.body) : undefined) as BodyOf<N>;
    const answer = await handler({ body, params: request.params as Record<string, string>, request, response });
    if (route.answer) response.status(route.status ?? 200).json(answer);
  });
}
