// A render thread: unpacks a request, calls core, sends the planes back.
import { parentPort } from 'node:worker_threads';
import {
  makeTables,
  measureSighting,
  plateKey,
  recolourFrame,
  renderFrame,
  sourceFrame,
  steadiedMatte,
  type CodePicture,
  type SourceFrame,
} from '@mellow/core';
import type { Answer, FrameTask, Measured, MeasureTask, Request } from './renderProtocol.ts';

const tables = makeTables();

const sourceOf = (
  codes: CodePicture,
  plates: FrameTask['plates'],
  { encoding, scale, balance }: FrameTask,
): SourceFrame => sourceFrame(codes, encoding, scale, tables, { balance, plate: (layer) => plates[plateKey(layer)] });

/** α of each sighting, steadied where it asks for it. */
function mattesOf(source: SourceFrame, task: FrameTask): Float32Array[] {
  const around = (task.around ?? []).map(({ off, frame }) => ({
    off,
    source: sourceOf(frame.codes, frame.plates, task),
    sightings: frame.sightings,
  }));
  return task.sightings.map((sighting, i) =>
    steadiedMatte(
      source,
      sighting,
      around
        .filter(({ off }) => Math.abs(off) <= (sighting.steadyFrames ?? 0))
        .map((n) => ({ source: n.source, sighting: n.sightings[i]! })),
    ),
  );
}

function measureColourways(source: SourceFrame, task: MeasureTask): Measured[] {
  const { sightings, index, colourways } = task;
  const mattes = mattesOf(source, task);
  const measured: Measured[] = [];
  for (const recipes of colourways) {
    const renders = sightings.map((s, i) => ({ ...s, ...recipes[i]! }));
    measured.push(
      measureSighting(
        source,
        recolourFrame(source, renders, tables, (_, i) => mattes[i]!),
        index,
        measured[0]?.before,
      ),
    );
  }
  return measured;
}

function renderRequest(source: SourceFrame, task: FrameTask): CodePicture {
  const mattes = mattesOf(source, task);
  return renderFrame(source, task.sightings, tables, (_, i) => mattes[i]!).codes;
}

parentPort!.on('message', (request: Request) => {
  let answer: Answer;
  try {
    const source = sourceOf(request.codes, request.plates, request);
    answer =
      request.kind === 'render'
        ? { id: request.id, ok: true, codes: renderRequest(source, request) }
        : { id: request.id, ok: true, measured: measureColourways(source, request) };
  } catch (error) {
    answer = { id: request.id, ok: false, message: error instanceof Error ? error.message : String(error) };
  }
  const planes = answer.ok && answer.codes ? [answer.codes.r.buffer, answer.codes.g.buffer, answer.codes.b.buffer] : [];
  parentPort!.postMessage(answer, planes as ArrayBuffer[]);
});
