// A tracking thread: holds one tracker, steps it from frame to frame.
import { parentPort } from 'node:worker_threads';
import { maskOf, PlaneTracker, pyramidOf, type Geometry, type Mask } from '@mellow/core';
import type { Answer, Request } from './trackProtocol.ts';

let tracker: PlaneTracker | undefined;
let size = { width: 0, height: 0 };

const pyramid = (codes: Uint16Array) => pyramidOf(Float32Array.from(codes, (v) => v / 65535), size.width, size.height);
function joined(geometries: readonly Geometry[]): Mask | undefined {
  if (geometries.length === 0) return undefined;
  const masks = geometries.map((g) => maskOf(g, size.width, size.height));
  return { ...size, inside: masks[0]!.inside.map((v, i) => (v || masks.some((m) => m.inside[i]) ? 1 : 0)) };
}

function run(request: Request): Omit<Extract<Answer, { ok: true }>, 'id' | 'ok'> {
  if (request.kind === 'set up') {
    size = { width: request.width, height: request.height };
    tracker = new PlaneTracker(pyramid(request.luma), maskOf(request.region, size.width, size.height), joined(request.holdOuts), request.freedom);
    return { textureErrorPx: tracker.textureErrorPx };
  }
  if (!tracker) throw new Error('the tracker is not set up');
  const [next, holdOut] = [pyramid(request.luma), joined(request.holdOuts)];
  const { motion, confidence, expectedErrorPx, lost, flex } = request.guess ? tracker.resume(next, request.guess, holdOut) : tracker.step(next, holdOut);
  return { found: { motion, confidence, expectedErrorPx, lost, flex } };
}

parentPort!.on('message', (request: Request) => {
  let answer: Answer;
  try {
    answer = { id: request.id, ok: true, ...run(request) };
  } catch (error) {
    answer = { id: request.id, ok: false, message: error instanceof Error ? error.message : String(error) };
  }
  parentPort!.postMessage(answer);
});
