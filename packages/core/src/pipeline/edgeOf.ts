// The edges of mattes on frames: they do not change while a recolour does.
import { gatheredLight, type LinearPlanes } from '../colour/planes.ts';
import { edgeColoursOf, type EdgeColours } from '../recolour/edgeColours.ts';
import type { SourceFrame } from './sourceFrame.ts';

/** What was found last of a matte, as long as there is the matte. */
const edges = new WeakMap<
  Float32Array,
  { of: SourceFrame; sheen: Float32Array | undefined; edge: EdgeColours | undefined }
>();

/** The piece's own colour under the edge of a matte on a frame as it came in. */
export function ownEdgeOf(
  source: SourceFrame,
  alpha: Float32Array,
  sheen: Float32Array | undefined,
): EdgeColours | undefined {
  const known = edges.get(alpha);
  if (known?.of === source && known.sheen === sheen) return known.edge;
  const { width, height } = source.codes;
  const edge = edgeColoursOf(source.lightAt, alpha, width, height, source.scale, sheen);
  edges.set(alpha, { of: source, sheen, edge });
  return edge;
}

/** The piece's own colour under its edge in `linear`, where earlier recolours have been `atWork`. */
export function edgeOf(
  source: SourceFrame,
  linear: LinearPlanes,
  alpha: Float32Array,
  atWork: readonly Float32Array[],
  sheen: Float32Array | undefined,
): EdgeColours | undefined {
  const own = ownEdgeOf(source, alpha, sheen);
  const isAsItCame = own?.index.every((i) => atWork.every((a) => a[i] === 0)) ?? true;
  if (isAsItCame) return own;
  const { width, height } = source.codes;
  return edgeColoursOf((index) => gatheredLight(linear, index), alpha, width, height, source.scale, sheen);
}
