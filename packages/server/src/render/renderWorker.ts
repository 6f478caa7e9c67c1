// A render thread: unpacks a request, calls core, sends the planes back.
import { Piscina } from 'piscina';
import {
  makeTables,
  measureColourways,
  plateId,
  renderCodes,
  renderThrough,
  sourceFrame,
  steadiedMatte,
  type CodePicture,
  type SourceFrame,
} from '@mellow/core';
import type { FrameTask, Request } from './renderProtocol.ts';

const tables = makeTables();

const sourceOf = (
  codes: CodePicture,
  plates: FrameTask['plates'],
  { encoding, scale, balance }: FrameTask,
): SourceFrame => sourceFrame(codes, encoding, scale, tables, { balance, plate: (layer) => plates[plateId(layer)] });

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

function renderRequest(source: SourceFrame, task: FrameTask): CodePicture {
  const mattes = mattesOf(source, task);
  const matteOf = (_: unknown, i: number) => mattes[i]!;
  const { look, sightings, as } = task;
  if (look) return renderThrough(look, source, sightings, tables, matteOf, as);
  return renderCodes(source, sightings, tables, matteOf, as);
}

/** An answer whose planes move back: a copy of every frame would cost as much as encoding it. */
const moved = (value: unknown, planes: readonly ArrayBufferView[]): unknown =>
  Piscina.move({
    [Piscina.transferableSymbol]: planes.map((plane) => plane.buffer),
    [Piscina.valueSymbol]: value,
  } as never);

/** What the pool calls, one request at a time. */
export function answer(request: Request): unknown {
  const source = sourceOf(request.codes, request.plates, request);
  if (request.kind === 'measure') {
    const { sightings, index, colourways } = request;
    return measureColourways(source, sightings, index, colourways, mattesOf(source, request), tables);
  }
  if (request.kind === 'mattes') {
    const mattes = mattesOf(source, request);
    return moved(mattes, mattes);
  }
  const codes = renderRequest(source, request);
  return moved(codes, [codes.r, codes.g, codes.b]);
}
