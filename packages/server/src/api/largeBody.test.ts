// Bodies of megabytes are read in a thread of its own, and to the same effect as small ones.
import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { ChangeId, ChangeRequest, Edit } from '@mellow/contract';
import { ROUTES } from '@mellow/contract';
import { Refused } from '../errors.ts';
import { startHarness, type Harness } from '../testing/harness.ts';
import { bodyOf } from './bodyOf.ts';
import { closeBodyReader, readBody } from './largeBody.ts';

let h: Harness;
let projectId: string;
beforeAll(async () => {
  h = await startHarness();
  projectId = (await h.call('createProject', {}, { name: 'Film' })).id;
});
afterAll(() => h.close());

/** A change that makes as many pieces as it may, each with a name of 100 characters. */
function pieces(n: number, name = (i: number): string => `Piece ${i} `.padEnd(100, 'ö')): ChangeRequest {
  const piece = (i: number) => {
    const id = randomUUID();
    return { kind: 'piece', id, revision: null, value: { id, projectId, name: name(i), kind: 'prop', position: i } };
  };
  const edits = Array.from({ length: n }, (_, i) => piece(i)) as unknown as Edit[];
  return { id: randomUUID() as ChangeId, label: 'Many', edits };
}
/** Numbers enough to make a megabyte of it, in an edit of a track. */
function large(change: ChangeRequest, put?: (track: Record<string, unknown>) => void): ChangeRequest {
  const id = randomUUID();
  const corners = [1, 2, 3, 4].map((x) => [x + 1 / 3, x + 1 / 7]);
  const freedom = { move: true, turn: true, scale: true, shear: true, perspective: true };
  const region = { form: 'rectangle', cx: 1, cy: 1, width: 1, height: 1, turnDeg: 0 };
  const own = { id, projectId, shotId: randomUUID(), name: 'Case', referenceFrame: 0, region, freedom };
  const track = {
    ...own,
    holdOuts: [],
    runs: [],
    manual: Array.from({ length: 5000 }, (_, frame) => ({ frame, corners })),
  };
  put?.(track);
  return {
    ...change,
    edits: [...change.edits, { kind: 'track', id, revision: null, value: track } as unknown as Edit],
  };
}
const bytesOf = (body: unknown): Buffer => Buffer.from(JSON.stringify(body));

it('gives the body as the contract has it, defaults included', async () => {
  const bytes = bytesOf(large(pieces(3)));
  expect(bytes.length).toBeGreaterThan(7e5);
  const body = await readBody('change', bytes);
  expect(body).toEqual(ROUTES.change.body.parse(JSON.parse(bytes.toString())));
  expect(body.edits[0]!.value).toMatchObject({ partOf: null });
});
it('refuses what a small one would be refused for, in the same words', async () => {
  const refusal = (act: () => unknown) =>
    Promise.resolve()
      .then(act)
      .then(
        () => expect.fail('was taken'),
        (error: unknown) => {
          if (!(error instanceof Refused)) throw error;
          const { code, message, errors } = error;
          return { code, message, errors };
        },
      );
  const spoilt = [
    large(pieces(1), (track) => (track.name = 'a\0b')),
    large(pieces(1), (track) => ((track.manual as unknown[])[4000] = { frame: -1, corners: [] })),
    large(pieces(1, () => '')),
  ].map(bytesOf);
  spoilt.push(spoilt[0]!.subarray(0, 4e5));
  for (const bytes of spoilt)
    expect(await refusal(() => readBody('change', bytes))).toEqual(await refusal(() => bodyOf('change', bytes)));
  expect((await refusal(() => readBody('change', spoilt[1]!))).message).toContain('edits.1.value.manual.4000.frame');
});
it('is taken in by the server, which answers others meanwhile', async () => {
  const change = pieces(500);
  expect(bytesOf(change).length).toBeGreaterThan(1.5e5);
  const renamed = {
    ...change,
    edits: change.edits.map((e) => ({ ...e, label: 'x'.repeat(400) })) as unknown as Edit[],
  };
  expect(bytesOf(renamed).length).toBeGreaterThan(2.5e5);
  const [{ seq }] = await Promise.all([h.call('change', { projectId }, renamed), h.call('live')]);
  expect(seq).toBeGreaterThan(0);
  const document = await h.call('getProject', { projectId });
  expect(document.pieces).toHaveLength(500);
  expect(document.pieces.map((p) => p.value.name)).toContain('Piece 499 '.padEnd(100, 'ö'));
  const problem = await h.problem(
    'change',
    { projectId },
    large(pieces(1), (track) => (track.name = '')),
  );
  expect(problem).toMatchObject({ code: 'invalid-input', detail: expect.stringContaining('edits.1.value.name') });
});
it('begins a thread anew after it was closed', async () => {
  await closeBodyReader();
  expect((await readBody('change', bytesOf(large(pieces(1))))).edits).toHaveLength(2);
});
