// A tracking thread: holds one tracker, steps it from frame to frame.
import { parentPort } from 'node:worker_threads';
import {
  maskOf,
  pyramidOf,
  trackerFor,
  type Geometry,
  type Mask,
  type Pyramid,
  type RegionTracker,
} from '@mellow/core';
import type { Answer, Request } from './trackProtocol.ts';
import { warmUpRequests } from './warmUp.ts';

let tracker: RegionTracker | undefined;
let size = { width: 0, height: 0 };

function pyramid(codes: Uint16Array): Pyramid {
  const luma = new Float32Array(codes.length);
  for (let i = 0; i < luma.length; i++) luma[i] = codes[i]! / 65535;
  return pyramidOf(luma, size.width, size.height);
}
function joined(geometries: readonly Geometry[]): Mask | undefined {
  if (geometries.length === 0) return undefined;
  const [first, ...others] = geometries.map((g) => maskOf(g, size.width, size.height));
  for (const { inside } of others) for (let i = 0; i < inside.length; i++) first!.inside[i]! |= inside[i]!;
  return first;
}

function run(request: Request): Omit<Extract<Answer, { ok: true }>, 'id' | 'ok'> {
  if (request.kind === 'warm up') {
    for (const each of warmUpRequests()) run({ id: request.id, ...each });
    tracker = undefined;
    return {};
  }
  if (request.kind === 'set up') {
    size = { width: request.width, height: request.height };
    tracker = trackerFor(
      pyramid(request.luma),
      maskOf(request.region, size.width, size.height),
      joined(request.holdOuts),
      request.freedom,
    );
    return { textureErrorPx: tracker.textureErrorPx };
  }
  if (!tracker) throw new Error('the tracker is not set up');
  const [next, holdOut] = [pyramid(request.luma), joined(request.holdOuts)];
  const { motion, confidence, expectedErrorPx, lost, flex } = request.guess
    ? tracker.resume(next, request.guess, holdOut)
    : tracker.step(next, holdOut);
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
