import { afterEach, expect, it, vi } from 'vitest';
import { openedOutcome, outcomeOf, uploadArchive, uploadFiles } from './upload.ts';

const id = '00000000-0000-4000-8000-000000000001';
const bad = { name: 'bad.mp4', reason: 'it cannot be read', offer: null };
it('lists what came in and what did not', () => {
  const text = JSON.stringify({ mediaIds: [id], shotIds: [id], refused: [bad] });
  expect(outcomeOf('uploadMedia', 201, text)).toMatchObject({ mediaIds: [id], refused: [bad], said: undefined });
});
it('says why nothing came in, with the offers there are', () => {
  const offer = { timing: 'frame by frame', fps: 24 };
  const text = JSON.stringify({ detail: 'its frame rate varies', refused: [{ ...bad, offer }] });
  const { refused, said } = outcomeOf('uploadMedia', 422, text);
  expect([refused[0]!.offer, said]).toEqual([offer, 'its frame rate varies']);
});
it('says so when it was stopped, and when the answer cannot be read', () => {
  expect(outcomeOf('uploadPlate', 0, '').said).toContain('stopped');
  expect(outcomeOf('uploadPlate', 502, '<html>').said).toContain('could not be read');
  expect(outcomeOf('uploadMedia', 201, '{}').said).toContain('could not be read');
});

/** A request without a server: what it was given, and hands to move it with. */
class FakeRequest {
  static last: FakeRequest;
  upload: { onprogress?: (e: { loaded: number; total: number }) => void } = {};
  onloadend?: () => void;
  opened: unknown[] = [];
  sent: FormData | undefined;
  status = 0;
  responseText = '';
  constructor() {
    FakeRequest.last = this;
  }
  open = (...args: unknown[]) => void (this.opened = args);
  send = (form: FormData) => void (this.sent = form);
  abort = () => this.onloadend!();
}
afterEach(() => vi.unstubAllGlobals());

it('sends the files and how they are to be taken, tells its progress, and says what came of it', async () => {
  vi.stubGlobal('XMLHttpRequest', FakeRequest);
  const files = [new File(['a'], 'a.0001.exr'), new File(['b'], 'a.0002.exr')];
  const shares: number[] = [];
  const { done } = uploadFiles('uploadMedia', id, files, { fps: 24, timing: 'frame by frame' }, (s) => shares.push(s));
  const { last } = FakeRequest;
  expect(last.opened).toEqual(['POST', `/api/projects/${id}/media`]);
  expect([...last.sent!.keys()]).toEqual(['fps', 'timing', 'files', 'files']);
  expect([last.sent!.get('fps'), last.sent!.get('timing')]).toEqual(['24', 'frame by frame']);
  expect(last.sent!.getAll('files').map((f) => (f as File).name)).toEqual(['a.0001.exr', 'a.0002.exr']);
  last.upload.onprogress!({ loaded: 3, total: 12 });
  expect(shares).toEqual([0.25]);
  Object.assign(last, { status: 422, responseText: JSON.stringify({ detail: 'too small' }) });
  last.onloadend!();
  expect(await done).toEqual({ mediaIds: [], refused: [], said: 'too small' });
});
it('sends no options that were not chosen, and stops when asked', async () => {
  vi.stubGlobal('XMLHttpRequest', FakeRequest);
  const { done, abort } = uploadFiles('uploadPlate', id, [new File(['a'], 'a.png')], {}, () => undefined);
  expect([...FakeRequest.last.sent!.keys()]).toEqual(['files']);
  abort();
  expect(await done).toEqual({
    mediaIds: [],
    refused: [],
    said: 'The upload was stopped; nothing was imported.',
  });
});

it('sends a saved project, and says which project it became or why it became none', async () => {
  vi.stubGlobal('XMLHttpRequest', FakeRequest);
  const upload = uploadArchive(new File(['PK'], 'spot.zip'), () => undefined);
  const request = FakeRequest.last;
  expect(request.opened).toEqual(['POST', '/api/archives']);
  expect((request.sent!.get('files') as File).name).toBe('spot.zip');
  Object.assign(request, { status: 201, responseText: JSON.stringify({ id, missing: ['card.mkv'] }) });
  request.onloadend!();
  expect(await upload.done).toEqual({ opened: { id, missing: ['card.mkv'] } });
  expect(openedOutcome(400, JSON.stringify({ detail: 'zip: cannot be read' })).said).toBe('zip: cannot be read');
  expect(openedOutcome(0, '').said).toContain('stopped');
  expect(openedOutcome(201, '{}').said).toContain('could not be read');
});
