import { z } from 'zod';
import { Problem, RIGHTS, ROUTES, type ProblemCode, type Route, type RouteName } from '@mellow/contract';
import { STATUS, TITLE } from './problem.ts';
import { SUMMARIES } from './summaries.ts';

const schemaOf = (schema: z.ZodType, io: 'input' | 'output') =>
  z.toJSONSchema(schema, { target: 'openapi-3.0', io, unrepresentable: 'any' });
const json = (schema: z.ZodType, io: 'input' | 'output') => ({ 'application/json': { schema: schemaOf(schema, io) } });

/** What a parameter of an address looks like, by its name; the others are UUIDs. */
const PARAMETERS: Record<string, object> = {
  token: { type: 'string' },
  sha256: { type: 'string', pattern: '^[0-9a-f]{64}$' },
  frame: { type: 'string', pattern: '^\\d{1,9}(\\.png)?$' },
  still: { type: 'string', pattern: '^\\d{1,3}\\.png$' },
  size: { type: 'string' },
};
const UUID = { type: 'string', format: 'uuid' };

/** The parts of a form in which files are sent. */
const FORM = {
  type: 'object',
  required: ['files'],
  properties: {
    files: { type: 'array', items: { type: 'string', format: 'binary' } },
    fps: { type: 'string', description: 'Pictures a second of numbered images' },
    timing: { type: 'string', enum: ['frame by frame'] },
  },
};

const sentAs = ({ consumes }: Route): object =>
  consumes === 'multipart/form-data' ? FORM : { type: 'string', format: 'binary' };

/** Why an operation may be refused, beside what may happen to any. */
export function problemsOf(name: RouteName, route: Route): ProblemCode[] {
  const need = RIGHTS[name];
  const isChange = !['get', 'head'].includes(route.method);
  const isImport = route.consumes !== undefined || name === 'importUploads' || name === 'openSentArchive';
  return [
    // an address or a query that cannot be read
    'invalid-input',
    'internal',
    'unavailable',
    ...(need === 'anyone' || need === 'link' ? [] : (['signed-out', 'not-allowed'] as const)),
    ...(name.startsWith('sign') ? (['not-allowed', 'conflict'] as const) : []),
    ...(/\{/.test(route.path) ? (['not-found'] as const) : []),
    ...(isChange ? (['conflict', 'stale-revision', 'not-found', 'too-large', 'too-many'] as const) : []),
    ...(isImport ? (['refused-media', 'storage-full'] as const) : []),
    ...(route.produces ? (['conflict'] as const) : []),
    ...(name === 'ready' ? (['storage-full'] as const) : []),
  ];
}

function operation(name: RouteName, route: Route): object {
  const parameters = [...route.path.matchAll(/\{(\w+)\}/g)].map(([, key]) => ({
    name: key,
    in: 'path',
    required: true,
    schema: PARAMETERS[key!] ?? UUID,
  }));
  const headers = Object.entries(route.headers ?? {}).map(([key, description]) => ({
    name: key,
    in: 'header',
    required: true,
    description,
    schema: { type: 'string' },
  }));
  const query = Object.entries(route.query?.shape ?? {}).map(([key, schema]) => ({
    name: key,
    in: 'query',
    required: false,
    schema: schemaOf(schema as z.ZodType, 'input'),
  }));
  const ok = route.answer ? json(route.answer, 'output') : { [route.produces ?? 'application/octet-stream']: {} };
  const problem = { 'application/problem+json': { schema: z.toJSONSchema(Problem, { target: 'openapi-3.0' }) } };
  const codes = problemsOf(name, route);
  const refused = Object.fromEntries(
    [...new Set(codes.map((code) => STATUS[code]))].map((status) => {
      const titles = codes.filter((code) => STATUS[code] === status).map((code) => TITLE[code]);
      return [String(status), { description: [...new Set(titles)].join('; '), content: problem }];
    }),
  );
  return {
    operationId: name,
    summary: SUMMARIES[name],
    'x-needs': RIGHTS[name],
    parameters: [...parameters, ...query, ...headers],
    ...(route.body && { requestBody: { required: true, content: json(route.body, 'input') } }),
    ...(route.consumes && {
      requestBody: { required: true, content: { [route.consumes]: { schema: sentAs(route) } } },
    }),
    responses: {
      [String(route.status ?? 200)]: { description: 'Done', content: ok },
      ...refused,
      default: { description: 'Another problem, RFC 9457', content: problem },
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
