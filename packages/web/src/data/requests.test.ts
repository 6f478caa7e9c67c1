import { describe, expect, it } from 'vitest';
import { addressOf, ask, problemText } from './requests.ts';

const id = '00000000-0000-4000-8000-000000000001';
const answering = (status: number, body: unknown, seen: { url?: string; init?: RequestInit } = {}) =>
  (async (url: string, init: RequestInit) => {
    Object.assign(seen, { url, init });
    return new Response(typeof body === 'string' ? body : JSON.stringify(body), { status });
  }) as unknown as typeof fetch;
const problem = { type: 'urn:x', title: 'T', status: 409, detail: 'Said plainly.', code: 'conflict', errors: [] };

describe('a request', () => {
  it('goes to the contract’s address, by its method, with its body as JSON', async () => {
    const seen: { url?: string; init?: RequestInit } = {};
    const { data } = await ask('createProject', { body: { name: 'Slow Morning' } }, answering(201, { id }, seen));
    expect(data).toEqual({ id });
    expect([seen.url, seen.init!.method, seen.init!.body]).toEqual([
      '/api/projects',
      'POST',
      '{"name":"Slow Morning"}',
    ]);
    expect(seen.init!.headers).toEqual({ 'content-type': 'application/json' });
    expect(addressOf('getProject', { projectId: 'a/b' })).toBe('/api/projects/a%2Fb');
    expect(addressOf('listFolder', {}, { path: 'day 1' })).toBe('/api/media-folder?path=day+1');
  });
  it('that is refused gives the problem', async () => {
    const { error } = await ask(
      'undo',
      { params: { projectId: id }, body: { id: id as never } },
      answering(409, problem),
    );
    expect(error).toEqual({ status: 409, problem });
    expect(problemText(error)).toBe('Said plainly.');
  });
  it('without a body sends none, and can be broken off by its signal', async () => {
    const seen: { init?: RequestInit } = {};
    const { signal } = new AbortController();
    await ask('health', { signal }, answering(200, {}, seen));
    expect(seen.init).toStrictEqual({ method: 'GET', signal });
    await ask('health', {}, answering(200, {}, seen));
    expect(seen.init).toStrictEqual({ method: 'GET' });
  });
  it('that nobody answers is away', async () => {
    const { error } = await ask('health', {}, () => Promise.reject(new TypeError('refused')));
    expect(error!.status).toBe('away');
    expect(problemText(error)).toContain('did not answer');
    expect(problemText(undefined)).toContain('did not answer');
  });
  it('whose answer is of another shape than agreed is a failure, not a crash later', async () => {
    const { data, error } = await ask('health', {}, answering(200, { ok: 'yes' }));
    expect([data, error!.status]).toEqual([undefined, 500]);
    expect(problemText(error)).toContain('Reload');
    expect((await ask('health', {}, answering(502, '<html>'))).error).toEqual({ status: 502, problem: undefined });
  });
});
