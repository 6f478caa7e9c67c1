// A render thread: unpacks a request, calls core, sends the planes back.
import { Piscina } from 'piscina';
import {
  carriedId,
  makeTables,
  measureColourways,
  measureFrameSample,
  plateId,
  renderFrame,
  renderThrough,
  sourceFrame,
  steadiedMatte,
  type SourceFrame,
} from '@mellow/core';
import { boxedMatte, wholeMatte } from './boxedMatte.ts';
import type { AgainTask, FrameTask, Measured, MeasureTask, RenderTask, Request } from './renderProtocol.ts';
import { bytesOf } from './sinks/samples.ts';
import { anyOf, hashOfTiff, packMattes, packPicture, type PackedFrame, type RenderedPicture } from './sinks/packed.ts';

const tables = makeTables();

const sourceOf = (
  { codes, seen, plates, carried }: Pick<FrameTask, 'codes' | 'seen' | 'plates' | 'carried'>,
  { encoding, scale, balance, sharesChroma }: FrameTask,
): SourceFrame =>
  sourceFrame(codes, encoding, scale, tables, {
    balance,
    sharesChroma,
    seen,
    plate: (layer) => plates[plateId(layer)],
    carried: (from) => carried[carriedId(from)],
  });

/** How α of each sighting is made, by its index: steadied where it asks for it. */
function matteMaker(source: SourceFrame, task: FrameTask): (index: number) => Float32Array {
  const around = (task.around ?? []).map(({ off, frame }) => ({
    off,
    source: sourceOf(frame, task),
    sightings: frame.sightings,
  }));
  return (index) => {
    const sighting = task.sightings[index]!;
    return steadiedMatte(
      source,
      sighting,
      around
        .filter(({ off }) => Math.abs(off) <= (sighting.steadyFrames ?? 0))
        .map((n) => ({ source: n.source, sighting: n.sightings[index]! })),
    );
  };
}
function mattesOf(source: SourceFrame, task: FrameTask): Float32Array[] {
  const matteAt = matteMaker(source, task);
  return task.sightings.map((_, i) => matteAt(i));
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

function measureRequest(source: SourceFrame, task: MeasureTask): Measured {
  const { sightings, index, colourways } = task;
  const matteAt = matteMaker(source, task);
  const known = (i: number) => task.mattes[i];
  const mattes = sightings.map((_, i) => {
    const kept = known(i);
    return kept ? wholeMatte(kept, source.codes) : matteAt(i);
  });
  return {
    ...measureColourways(source, sightings, index, colourways, mattes, tables),
    mattes: mattes.map((alpha, i) => (known(i) ? undefined : boxedMatte(alpha, source.codes))),
  };
}

const measureAgain = ({ frames, ...footage }: AgainTask): Measured['colourways'][] =>
  frames.map(({ sample, programs }) => measureFrameSample(sample, footage, programs, tables));

/** An answer whose bytes move back: a copy of every frame would cost as much as encoding it. */
const moved = (value: unknown, frames: readonly PackedFrame[]): unknown =>
  Piscina.move({
    // what nothing is done to is handed on as it is: the same planes, which can be moved once only
    [Piscina.transferableSymbol]: [...new Set(frames.flatMap((frame) => frame.parts.map((part) => part.buffer)))],
    [Piscina.valueSymbol]: value,
  } as never);

/** What the pool calls, one request at a time. */
export async function answer(request: Request): Promise<unknown> {
  if (request.kind === 'hash of TIFF') return hashOfTiff(bytesOf(request.file));
  if (request.kind === 'measure again') return measureAgain(request);
  const source = sourceOf(request, request);
  if (request.kind === 'measure') return measureRequest(source, request);
  if (request.kind === 'mattes') {
    const mattes = await packMattes(mattesOf(source, request), source.codes, request.packing);
    return moved(mattes, [mattes]);
  }
  const pictures = renderRequest(source, request);
  const packed = await Promise.all(pictures.map((picture) => packPicture(picture, request.packing)));
  return moved(packed, packed);
}
