// The edges of mattes on frames: they do not change while a recolour does.
import { gatheredLight, type LinearPlanes } from '../colour/planes.ts';
import { edgeColoursOf, type EdgeColours } from '../recolour/edgeColours.ts';
import { mixedBandOf } from '../recolour/mixedBand.ts';
import type { SourceFrame } from './sourceFrame.ts';

/** A spill that has been removed from the light already, by a share of `strength`. */
export interface Removed {
  share: Float32Array;
  strength: number;
}

/** What was found last of a matte, as long as there is the matte. */
const edges = new WeakMap<
  Float32Array,
  { of: SourceFrame; sheen: Float32Array | undefined; removed: Removed | undefined; edge: EdgeColours | undefined }
>();
function knownEdge(
  source: SourceFrame,
  alpha: Float32Array,
  sheen: Float32Array | undefined,
  removed: Removed | undefined,
  make: () => EdgeColours | undefined,
): EdgeColours | undefined {
  const known = edges.get(alpha);
  const isKnown =
    known?.of === source &&
    known.sheen === sheen &&
    known.removed?.share === removed?.share &&
    known.removed?.strength === removed?.strength;
  if (isKnown) return known.edge;
  const edge = make();
  edges.set(alpha, { of: source, sheen, removed, edge });
  return edge;
}

/** The piece's own colour under the edge of a matte on a frame as it came in. */
export function ownEdgeOf(
  source: SourceFrame,
  alpha: Float32Array,
  sheen: Float32Array | undefined,
): EdgeColours | undefined {
  const { sharesChroma } = source;
  const { width, height } = source.codes;
  return knownEdge(source, alpha, sheen, undefined, () =>
    edgeColoursOf(source.lightAt, alpha, width, height, source.scale, { sheen, sharesChroma }),
  );
}

/**
 * The piece's own colour under its edge in `linear`, where its own spill has been `removed` and other recolours have
 * been `atWork` before.
 */
export function edgeOf(
  source: SourceFrame,
  linear: LinearPlanes,
  alpha: Float32Array,
  atWork: readonly Float32Array[],
  removed: Removed | undefined,
  sheen: Float32Array | undefined,
): EdgeColours | undefined {
  if (atWork.length === 0 && !removed) return ownEdgeOf(source, alpha, sheen);
  const mixed = mixedPixels(source, alpha);
  const isTouched = (plane: Float32Array) => mixed.some((i) => plane[i] !== 0);
  const { scale, sharesChroma } = source;
  const { width, height } = source.codes;
  const inLight = () =>
    edgeColoursOf((index) => gatheredLight(linear, index), alpha, width, height, scale, { sheen, sharesChroma });
  if (atWork.some(isTouched)) return inLight();
  if (!removed || !isTouched(removed.share)) return ownEdgeOf(source, alpha, sheen);
  // alone with its spill its edge does not change while its recolour does; others may be at work beside it
  return atWork.length === 0 ? knownEdge(source, alpha, sheen, removed, inLight) : inLight();
}
/** The pixels of a matte's edge. */
function mixedPixels(source: SourceFrame, alpha: Float32Array): Uint32Array {
  const known = edges.get(alpha);
  if (known?.of === source && known.edge) return known.edge.index;
  const band = mixedBandOf(alpha, source.codes.width);
  return band ? band.index.subarray(0, band.mixed) : new Uint32Array(0);
}
