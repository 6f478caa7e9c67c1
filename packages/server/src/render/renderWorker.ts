// A render thread: unpacks a request, calls core, sends the planes back.
import { parentPort } from 'node:worker_threads';
import { makeTables, measureSighting, renderFrame, sourceFrame } from '@mellow/core';
import type { Answer, Request } from './renderProtocol.ts';

const tables = makeTables();
parentPort!.on('message', (request: Request) => {
  let answer: Answer;
  try {
    const source = sourceFrame(request.codes, request.encoding, request.scale, tables);
    const rendered = renderFrame(source, request.sightings, tables);
    answer = request.kind === 'render' ? { id: request.id, ok: true, codes: rendered.codes } : { id: request.id, ok: true, measured: measureSighting(source, rendered, request.index) };
  } catch (error) {
    answer = { id: request.id, ok: false, message: error instanceof Error ? error.message : String(error) };
  }
  const planes = answer.ok && answer.codes ? [answer.codes.r.buffer, answer.codes.g.buffer, answer.codes.b.buffer] : [];
  parentPort!.postMessage(answer, planes as ArrayBuffer[]);
});
