// Whatever is asked of an upload, in whatever order and however wrong: what is here is what was acknowledged, and no
// answer tells of the inside.
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { Problem } from '@mellow/contract';
import { uploadsFolder } from '../media/store.ts';
import { startHarness, type Harness } from '../testing/harness.ts';
import { begin, idOf, OCTETS, offset, send, TUS } from '../testing/tus.ts';

/** Uploads; MELLOW_FUZZ_RUNS for a long run. */
const RUNS = Number(process.env.MELLOW_FUZZ_RUNS ?? 25);
const SEED = Number(process.env.MELLOW_FUZZ_SEED ?? 20_261_129);
const MOST_BYTES = 400;

let h: Harness;
beforeAll(async () => {
  h = await startHarness();
});
afterAll(() => h.close());

/** Header values that are wrong, or wrong here. */
const odd = fc.oneof(
  fc.constantFrom('', '-1', '1e3', '0x10', 'NaN', '99999999999999999999', '1.5', '*', 'bytes 0-1/2', 'é'),
  fc.nat(2 * MOST_BYTES).map(String),
  fc.string({ unit: fc.integer({ min: 32, max: 126 }).map((code) => String.fromCharCode(code)), maxLength: 30 }),
);
const named = fc.constantFrom(
  ...['upload-offset', 'upload-length', 'upload-metadata', 'upload-defer-length', 'upload-concat', 'tus-resumable'],
  ...['content-type', 'x-http-method-override', 'upload-checksum', 'content-encoding', 'if-match', 'range'],
);
const oddHeaders = fc.dictionary(named, odd, { maxKeys: 3 });
const pieceOf = fc.uint8Array({ minLength: 1, maxLength: MOST_BYTES });
const step = fc.oneof(
  { weight: 4, arbitrary: fc.record({ do: fc.constant('piece' as const), bytes: pieceOf }) },
  {
    weight: 2,
    arbitrary: fc.record({
      do: fc.constant('misplaced' as const),
      bytes: pieceOf,
      by: fc.integer({ min: -9, max: 9 }),
    }),
  },
  {
    weight: 3,
    arbitrary: fc.record({
      do: fc.constant('odd' as const),
      method: fc.constantFrom('HEAD', 'POST', 'GET', 'PUT', 'OPTIONS'),
      headers: oddHeaders,
    }),
  },
  { weight: 3, arbitrary: fc.record({ do: fc.constant('oddPiece' as const), bytes: pieceOf, headers: oddHeaders }) },
);
type Step = typeof step extends fc.Arbitrary<infer S> ? S : never;

/** No fault of the server, a problem that says what it is, and nothing of the inside. */
async function seen(answer: Response): Promise<Response> {
  const text = answer.body ? await answer.clone().text() : '';
  const told = `${answer.status} ${text.slice(0, 400)}`;
  if (answer.status >= 500) throw new Error(told);
  if (text.includes(h.store.root) || /\bat .*\.(ts|js):\d/.test(text)) throw new Error(`tells of the inside: ${told}`);
  if (answer.status >= 400 && text) expect(Problem.parse(JSON.parse(text)).detail, told).not.toBe('');
  return answer;
}

it('what is here is what was acknowledged', async () => {
  await fc.assert(
    fc.asyncProperty(fc.nat(MOST_BYTES), fc.array(step, { maxLength: 12 }), async (length, steps: Step[]) => {
      const id = idOf(await seen(await begin(h, 'film.mkv', length)));
      let here = Buffer.alloc(0);
      const take = async (answer: Response, bytes: Uint8Array): Promise<void> => {
        await seen(answer);
        if (answer.status === 204) here = Buffer.concat([here, bytes]);
      };
      for (const next of steps) {
        const at = `${h.url}/api/uploads/${id}`;
        if (next.do === 'piece') {
          const bytes = next.bytes.slice(0, length - here.length);
          const answer = await send(h, id, here.length, Buffer.from(bytes));
          await take(answer, bytes);
          if (bytes.length > 0) expect(answer.status).toBe(204);
        } else if (next.do === 'misplaced') {
          const answer = await send(h, id, here.length + next.by, Buffer.from(next.bytes));
          if (next.by !== 0) expect([400, 409]).toContain(answer.status);
          await take(answer, next.bytes);
        } else if (next.do === 'odd')
          await seen(await fetch(at, { method: next.method, headers: { ...TUS, ...next.headers } }));
        else {
          const headers = { ...TUS, ...OCTETS, 'upload-offset': String(here.length), ...next.headers };
          await take(await fetch(at, { method: 'PATCH', headers, body: new Uint8Array(next.bytes) }), next.bytes);
        }
        expect(await offset(h, id), JSON.stringify(next)).toBe(here.length);
      }
      expect(readFileSync(join(uploadsFolder(h.store, null), id)).equals(here)).toBe(true);
    }),
    { numRuns: RUNS, seed: SEED, endOnFailure: true },
  );
}, 600_000);
it('what is begun wrongly is refused, or is as long as it says', async () => {
  await fc.assert(
    fc.asyncProperty(oddHeaders, async (headers) => {
      const answer = await seen(await begin(h, 'film.mkv', 10, headers));
      if (answer.status === 201) expect(await offset(h, idOf(answer))).toBe(0);
    }),
    { numRuns: 2 * RUNS, seed: SEED, endOnFailure: true },
  );
}, 600_000);
