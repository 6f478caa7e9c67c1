import { z } from 'zod';
import { Problem, ROUTES, type Route, type RouteName } from '@mellow/contract';
import { SUMMARIES } from './summaries.ts';

const json = (schema: z.ZodType, io: 'input' | 'output') => ({
  'application/json': { schema: z.toJSONSchema(schema, { target: 'openapi-3.0', io, unrepresentable: 'any' }) },
});

function operation(name: RouteName, route: Route): object {
  const parameters = [...route.path.matchAll(/\{(\w+)\}/g)].map((m) => ({
    name: m[1],
    in: 'path',
    required: true,
    schema: { type: 'string' },
  }));
  const query = Object.entries(route.query?.shape ?? {}).map(([key]) => ({
    name: key,
    in: 'query',
    required: false,
    schema: { type: 'string' },
  }));
  const ok = route.answer ? json(route.answer, 'output') : { [route.produces ?? 'application/octet-stream']: {} };
  return {
    operationId: name,
    summary: SUMMARIES[name],
    parameters: [...parameters, ...query],
    ...(route.body && { requestBody: { required: true, content: json(route.body, 'input') } }),
    ...(route.consumes && {
      requestBody: { required: true, content: { [route.consumes]: { schema: { type: 'object' } } } },
    }),
    responses: {
      [String(route.status ?? 200)]: { description: 'Done', content: ok },
      default: {
        description: 'A problem, RFC 9457',
        content: { 'application/problem+json': { schema: z.toJSONSchema(Problem, { target: 'openapi-3.0' }) } },
      },
    },
  };
}

/** The OpenAPI 3.0 description of all contract routes. */
export function openApi(version: string): { openapi: string; [key: string]: unknown } {
  const paths: Record<string, Record<string, object>> = {};
  for (const [name, route] of Object.entries(ROUTES) as [RouteName, Route][])
    paths[route.path] = { ...paths[route.path], [route.method]: operation(name, route) };
  return { openapi: '3.0.3', info: { title: 'Mellow Hue', version }, paths };
}
