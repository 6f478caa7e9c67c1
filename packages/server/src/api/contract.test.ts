// Every operation of the contract, called with bodies and addresses that were made of its own description, right ones
// and spoilt ones: whatever comes is answered as described, nothing breaks, and nothing is told of the inside.
import { randomUUID } from 'node:crypto';
import { join } from 'node:path';
import fc from 'fast-check';
import { createGeneratorSync } from 'json-schema-faker';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { z } from 'zod';
import { Problem, ROUTES, type Route, type RouteName } from '@mellow/contract';
import { startHarness, type Harness } from '../testing/harness.ts';
import { openApi, problemsOf } from './openapi.ts';
import { STATUS } from './problem.ts';

/** Requests of each operation; MELLOW_FUZZ_RUNS for a long run. */
const RUNS = Number(process.env.MELLOW_FUZZ_RUNS ?? 12);
const SEED = Number(process.env.MELLOW_FUZZ_SEED ?? 20_261_129);

let h: Harness;
const known: Record<string, string> = {};
beforeAll(async () => {
  h = await startHarness();
  known.projectId = (await h.call('createProject', {}, { name: 'Film' })).id;
  const pieceId = randomUUID();
  const piece = { id: pieceId, projectId: known.projectId, name: 'Lark', kind: 'product', position: 0 };
  const edits = [{ kind: 'piece', id: pieceId, revision: null, value: piece }] as never;
  await h.call('change', { projectId: known.projectId }, { id: randomUUID() as never, label: 'Add', edits });
});
afterAll(() => h.close());

const operations = Object.entries(ROUTES) as [RouteName, Route][];

describe('the description', () => {
  const { paths } = openApi('1') as unknown as { paths: Record<string, Record<string, Described>> };
  interface Described {
    parameters: { name: string; in: string; schema: { format?: string; pattern?: string } }[];
    responses: Record<string, unknown>;
    requestBody?: { content: Record<string, { schema: { properties?: object } }> };
  }
  it('has every operation, its ids as UUIDs, the parts of its forms, and what it may be refused for', () => {
    for (const [name, route] of operations) {
      const { parameters, responses, requestBody } = paths[route.path]![route.method]!;
      const headers = parameters.filter((p) => p.in === 'header').map((p) => p.name);
      expect(headers, name).toEqual(Object.keys(route.headers ?? {}));
      for (const { name: parameter, schema } of parameters)
        if (parameter.endsWith('Id')) expect(schema.format, `${name} ${parameter}`).toBe('uuid');
      expect(Object.keys(responses), name).toEqual(expect.arrayContaining(['400', '500', '503']));
      if (route.path.includes('{')) expect(responses, name).toHaveProperty('404');
      if (route.body) expect(responses, name).toHaveProperty('413');
      const form = requestBody?.content['multipart/form-data'];
      expect(form !== undefined, name).toBe(route.consumes === 'multipart/form-data');
      if (form) expect(form.schema.properties).toHaveProperty('files');
    }
  });
});

/** Any part of a value replaced by another, or left out. */
const spoilt = (value: unknown): fc.Arbitrary<unknown> =>
  fc
    .tuple(fc.array(fc.nat(50), { minLength: 1, maxLength: 6 }), fc.jsonValue(), fc.boolean())
    .map(([path, by, isLeftOut]) => {
      const copy: unknown = structuredClone(value);
      let [at, key]: [unknown, string | undefined] = [copy, undefined];
      let parent: Record<string, unknown> | undefined;
      for (const step of path) {
        if (typeof at !== 'object' || at === null || Object.keys(at).length === 0) break;
        parent = at as Record<string, unknown>;
        key = Object.keys(parent)[step % Object.keys(parent).length]!;
        at = parent[key];
      }
      if (!parent || key === undefined) return by;
      if (isLeftOut) delete parent[key];
      else parent[key] = by;
      return copy;
    });
/** What may stand in an address in the place of an id: one that is there, one that is not, and what is none. */
const placed = (key: string): fc.Arbitrary<string> =>
  fc.oneof(
    { weight: 4, arbitrary: fc.constant(known[key] ?? randomUUID()) },
    { weight: 1, arbitrary: fc.uuid() },
    {
      weight: 1,
      arbitrary: fc.string({ unit: 'binary', minLength: 1, maxLength: 30 }).filter((s) => s.isWellFormed()),
    },
    { weight: 1, arbitrary: fc.constantFrom('%2e%2e', '%00', '0.png', 'proxy', `../../../etc/passwd`, 'null') },
  );

/** Sends, and gives the status; throws where the answer is not as it should be. */
async function answered(name: RouteName, path: string, body: unknown): Promise<number> {
  const route: Route = ROUTES[name];
  const response = await fetch(h.url + path, {
    method: route.method.toUpperCase(),
    headers: { connection: 'close', ...(body !== undefined && { 'content-type': 'application/json' }) },
    ...(body !== undefined && { body: JSON.stringify(body) }),
  });
  if (response.headers.get('content-type')?.startsWith('text/event-stream')) {
    await response.body!.cancel();
    return response.status;
  }
  const text = await response.text();
  const told = `${name} ${path} ${JSON.stringify(body)?.slice(0, 500)} → ${response.status} ${text.slice(0, 500)}`;
  if (route.method === 'head') return response.status;
  if (text.includes(h.store.root) || text.includes(join(import.meta.dirname, '..')) || /\bat .*\.(ts|js):\d/.test(text))
    throw new Error(`tells of the inside: ${told}`);
  if (response.ok || response.status === 302) {
    if (route.answer) route.answer.parse(JSON.parse(text));
    return response.status;
  }
  const { code, status } = Problem.parse(JSON.parse(text));
  if (status !== response.status) throw new Error(`says another status: ${told}`);
  // an address that is spoilt may be another's, or nobody's
  const mayBe = [...problemsOf(name, route).map((c) => STATUS[c]), 404, 416];
  if (code === 'internal' || !mayBe.includes(status)) throw new Error(`is not described: ${told}`);
  return status;
}

describe('with what is made of its description, whole and spoilt', () => {
  it.each(operations.map(([name]) => name))('%s answers as described', async (name) => {
    const route: Route = ROUTES[name];
    const generator = createGeneratorSync({ seed: SEED, useDefaultValue: false, optionalsProbability: 0.5 });
    const schema = route.body && z.toJSONSchema(route.body, { io: 'input', unrepresentable: 'any' });
    const whole = (): unknown => (schema ? generator.generate(schema as never) : undefined);
    const keys = [...route.path.matchAll(/\{(\w+)\}/g)].map((m) => m[1]!);
    const places = fc.record(Object.fromEntries(keys.map((key) => [key, placed(key)])));
    const body = schema
      ? fc.oneof(
          fc.constant(null).map(whole),
          fc.constant(null).chain(() => spoilt(whole())),
        )
      : fc.constant(undefined);
    await fc.assert(
      fc.asyncProperty(places, body, async (at, sent) => {
        const path = route.path.replaceAll(/\{(\w+)\}/g, (_, key: string) => encodeURIComponent(at[key]!));
        await answered(name, path, sent);
      }),
      { numRuns: RUNS, seed: SEED, endOnFailure: true },
    );
  });
  it('and nothing is left that cannot be read', async () => {
    for (const { id } of await h.call('listProjects')) await h.call('getProject', { projectId: id });
    await h.call('listKeptSettings');
  });
});
