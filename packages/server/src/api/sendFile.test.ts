import type { Response } from 'express';
import { expect, it } from 'vitest';
import { sendFile, sendKept } from './sendFile.ts';

/** A response whose file cannot be read: before anything of it was sent, or after. */
function failing(headersSent: boolean) {
  const broken: unknown[] = [];
  const response = {
    headersSent,
    destroy: (error: unknown) => broken.push(error),
    sendFile: (_path: string, _options: object, done: (error: Error) => void) => done(new Error('EIO')),
  };
  return { broken, response: response as unknown as Response };
}

it('a file of which nothing can be sent is a failure like any other', async () => {
  const { response, broken } = failing(false);
  await expect(sendKept(response, '/frame.png')).rejects.toThrow('EIO');
  expect(broken).toEqual([]);
});
it('one that breaks off half-way is broken off for who asked too', async () => {
  const { response, broken } = failing(true);
  await sendKept(response, '/frame.png');
  expect(broken).toEqual([new Error('EIO')]);
});
it('one that is sent whole leaves the connection alone', async () => {
  const { response, broken } = failing(true);
  await sendFile(response, (done) => done());
  expect(broken).toEqual([]);
});
