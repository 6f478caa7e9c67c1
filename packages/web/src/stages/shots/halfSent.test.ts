import { expect, it } from 'vitest';
import type { UploadId } from '@mellow/contract';
import { halfSentText, sendingText } from './halfSent.ts';

const upload = (name: string, here: number, bytes = 1000) => ({
  id: '00000000-0000-4000-8000-000000000001' as UploadId,
  name,
  bytes,
  here,
  lastModified: null,
});

it('says how much of each is there, never that all is where a byte is missing', () => {
  expect(halfSentText([upload('a.mov', 600), upload('b.mov', 999), upload('c.mov', 1000)])).toBe(
    'Sent, and not brought in: a.mov 60 %, b.mov 99 %, c.mov 100 %. Choose the same again to go on from there.',
  );
});
it('counts what it does not name, and an empty file is whole', () => {
  const many = ['a', 'b', 'c', 'd', 'e'].map((name) => upload(name, 0, 0));
  expect(halfSentText(many)).toContain('a 100 %, b 100 %, c 100 %, 2 more.');
});

it('says what is done with files on their way', () => {
  const sending = { name: 'a.mov', share: 0.5, isPaused: false, isWaiting: false };
  expect(sendingText(sending)).toBe('Sending a.mov');
  expect(sendingText({ ...sending, isPaused: true, isWaiting: true })).toBe('a.mov is paused');
  expect(sendingText({ ...sending, isWaiting: true })).toContain('does not answer');
  expect(sendingText({ ...sending, share: 1 })).toContain('Checking');
});
