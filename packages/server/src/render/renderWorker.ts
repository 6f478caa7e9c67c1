// A render thread: unpacks a request, calls core, sends the planes back.
import { parentPort } from 'node:worker_threads';
import { frameMatte, makeTables, measureSighting, plateKey, recolourFrame, renderFrame, sourceFrame, type SourceFrame } from '@mellow/core';
import type { Answer, Measured, MeasureTask, Request } from './renderProtocol.ts';

const tables = makeTables();

function measureColourways(source: SourceFrame, { sightings, index, colourways }: MeasureTask): Measured[] {
  const mattes = sightings.map(({ layers, cleanUp }) => frameMatte(source, layers, cleanUp));
  const measured: Measured[] = [];
  for (const recipes of colourways) {
    const renders = sightings.map((s, i) => ({ ...s, ...recipes[i]! }));
    measured.push(measureSighting(source, recolourFrame(source, renders, tables, (_, i) => mattes[i]!), index, measured[0]?.before));
  }
  return measured;
}

parentPort!.on('message', (request: Request) => {
  let answer: Answer;
  try {
    const source = sourceFrame(request.codes, request.encoding, request.scale, tables, { balance: request.balance, plate: (layer) => request.plates[plateKey(layer)] });
    answer =
      request.kind === 'render'
        ? { id: request.id, ok: true, codes: renderFrame(source, request.sightings, tables).codes }
        : { id: request.id, ok: true, measured: measureColourways(source, request) };
  } catch (error) {
    answer = { id: request.id, ok: false, message: error instanceof Error ? error.message : String(error) };
  }
  const planes = answer.ok && answer.codes ? [answer.codes.r.buffer, answer.codes.g.buffer, answer.codes.b.buffer] : [];
  parentPort!.postMessage(answer, planes as ArrayBuffer[]);
});
