import { afterEach, expect, it, vi } from 'vitest';
import type { Problem } from '@mellow/contract';
import { outcomeOf, uploadCube } from './upload.ts';

const id = '00000000-0000-4000-8000-000000000001';
const bad = { name: 'bad.mp4', reason: 'it cannot be read', offer: null };
const problem = (more: Partial<Problem>): Problem => ({
  ...{ type: '', title: '', status: 422, detail: '', code: 'refused-media', errors: [] },
  ...more,
});
afterEach(() => vi.unstubAllGlobals());

it('lists what came in and what did not', () => {
  const data = { mediaIds: [id], refused: [bad] };
  expect(outcomeOf({ data })).toEqual({ mediaIds: [id], refused: [bad], said: undefined });
});
it('says why nothing came in, with the offers there are', () => {
  const offer = { timing: 'frame by frame' as const, fps: 24 };
  const said = problem({ detail: 'its frame rate varies', refused: [{ ...bad, offer }] });
  const { refused, said: told } = outcomeOf({ error: { status: 422, problem: said } });
  expect([refused[0]!.offer, told]).toEqual([offer, 'its frame rate varies']);
});
it('says so when it was stopped, and when the answer cannot be read', () => {
  const away = { error: { status: 'away' as const, problem: undefined } };
  expect(outcomeOf(away, AbortSignal.abort()).said).toContain('stopped');
  expect(outcomeOf(away).said).toContain('did not answer');
  expect(outcomeOf({ error: { status: 500, problem: undefined } }).said).toContain('could not be read');
});
it('brings a look-up table in, or says why not', async () => {
  const answer = vi.fn(() => Promise.resolve(new Response(JSON.stringify(problem({ detail: 'line 3: no number' })))));
  vi.stubGlobal('fetch', answer);
  expect((await uploadCube(id, new File(['x'], 'a.cube'))).said).toBe('line 3: no number');
  vi.stubGlobal('fetch', () => Promise.reject(new TypeError('no network')));
  expect((await uploadCube(id, new File(['x'], 'a.cube'))).said).toContain('did not answer');
});
