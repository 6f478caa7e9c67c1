// A render thread: unpacks a request, calls core, sends the planes back.
import { Piscina } from 'piscina';
import {
  carriedId,
  makeTables,
  measureColourways,
  plateId,
  renderFrame,
  renderThrough,
  sourceFrame,
  steadiedMatte,
  type SourceFrame,
} from '@mellow/core';
import type { FrameTask, RenderTask, Request } from './renderProtocol.ts';
import type { RenderedPicture } from './sinks/frameSink.ts';

const tables = makeTables();

const sourceOf = (
  { codes, plates, carried }: Pick<FrameTask, 'codes' | 'plates' | 'carried'>,
  { encoding, scale, balance }: FrameTask,
): SourceFrame =>
  sourceFrame(codes, encoding, scale, tables, {
    balance,
    plate: (layer) => plates[plateId(layer)],
    carried: (from) => carried[carriedId(from)],
  });

/** α of each sighting, steadied where it asks for it. */
function mattesOf(source: SourceFrame, task: FrameTask): Float32Array[] {
  const around = (task.around ?? []).map(({ off, frame }) => ({
    off,
    source: sourceOf(frame, task),
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

/** What any of the mattes selects: the most that one does. */
function anyOf(mattes: readonly Float32Array[], pixels: number): Float32Array {
  const any = new Float32Array(pixels);
  for (const matte of mattes) for (let i = 0; i < pixels; i++) if (matte[i]! > any[i]!) any[i] = matte[i]!;
  return any;
}

function renderRequest(source: SourceFrame, task: RenderTask): RenderedPicture[] {
  const mattes = mattesOf(source, task);
  const matteOf = (_: unknown, i: number) => mattes[i]!;
  const { look, colourways, as, withAlpha } = task;
  return colourways.map((sightings) => {
    const codes = look
      ? renderThrough(look, source, sightings, tables, matteOf, as)
      : renderFrame(source, sightings, tables, matteOf, as).codes;
    return withAlpha ? { ...codes, alpha: anyOf(mattes, codes.r.length) } : codes;
  });
}

/** An answer whose planes move back: a copy of every frame would cost as much as encoding it. */
const moved = (value: unknown, planes: readonly ArrayBufferView[]): unknown =>
  Piscina.move({
    [Piscina.transferableSymbol]: [...new Set(planes.map((plane) => plane.buffer))],
    [Piscina.valueSymbol]: value,
  } as never);

/** What the pool calls, one request at a time. */
export function answer(request: Request): unknown {
  const source = sourceOf(request, request);
  if (request.kind === 'measure') {
    const { sightings, index, colourways } = request;
    return measureColourways(source, sightings, index, colourways, mattesOf(source, request), tables);
  }
  if (request.kind === 'mattes') {
    const mattes = mattesOf(source, request);
    return moved(mattes, mattes);
  }
  const pictures = renderRequest(source, request);
  // what nothing is done to is handed on as it is: the same planes, which can be moved once only
  const planes = pictures.flatMap(({ r, g, b, alpha }) => [r, g, b, ...(alpha ? [alpha] : [])]);
  return moved(pictures, planes);
}
