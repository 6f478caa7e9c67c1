// Bodies that come slowly, that stand still, and work that takes long after one.
import { once } from 'node:events';
import { request as ask, type ClientRequest, type IncomingMessage } from 'node:http';
import type { AddressInfo } from 'node:net';
import { setTimeout as wait } from 'node:timers/promises';
import express from 'express';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { httpServer } from './listening.ts';

const IDLE_MS = 400;
const app = express();
let broken = 0;
app.post('/body', (request, response) => {
  let bytes = 0;
  request.on('data', (chunk: Buffer) => (bytes += chunk.length));
  request.on('error', () => broken++);
  // longer than a body may stand still
  request.on('end', () => void wait(2 * IDLE_MS).then(() => response.json({ bytes })));
});
const server = httpServer(app, IDLE_MS);
let port: number;
beforeAll(async () => {
  await once(server.listen(0, '127.0.0.1'), 'listening');
  port = (server.address() as AddressInfo).port;
});
afterAll(() => void server.close());

function begun(): { sent: ClientRequest; answered: Promise<unknown> } {
  const sent = ask({ port, host: '127.0.0.1', path: '/body', method: 'POST' });
  const answered = new Promise((resolve, reject) => {
    sent.on('error', reject);
    sent.on('response', (response: IncomingMessage) => void response.toArray().then((all) => resolve(String(all[0]))));
  });
  return { sent, answered };
}

it('has no limit on how long a request takes as a whole', () => expect(server.requestTimeout).toBe(0));
it('a body that keeps coming arrives, and its answer may take longer than it may stand still', async () => {
  const { sent, answered } = begun();
  for (let i = 0; i < 8; i++) {
    sent.write('0123456789');
    await wait(IDLE_MS / 4);
  }
  sent.end();
  expect(await answered).toBe('{"bytes":80}');
});
it('a body of which nothing more comes is given up', async () => {
  const { sent, answered } = begun();
  sent.write('0123456789');
  await expect(answered).rejects.toThrow(/hang up|reset/);
  expect(broken).toBe(1);
});
