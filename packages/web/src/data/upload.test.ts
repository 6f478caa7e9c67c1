import { expect, it } from 'vitest';
import { outcomeOf } from './upload.ts';

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
