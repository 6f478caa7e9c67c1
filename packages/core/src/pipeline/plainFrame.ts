// Frames on which every pixel is a matter of its own: no two recolours meet, and none looks round about.
import { gatheredLight, gatheredPlane, type LinearPlanes } from '../colour/planes.ts';
import { boundsOfFinished, sharedBox, type PixelBox } from '../matte/bounds.ts';
import type { EdgeColours } from '../recolour/edgeColours.ts';
import type { Program } from '../recolour/program.ts';
import { recolourInto } from '../recolour/recolourInto.ts';
import { ownEdgeOf } from './edgeOf.ts';
import { looksFurther } from './region.ts';
import type { SightingRender } from './sightingRender.ts';
import type { SourceFrame, Tables } from './sourceFrame.ts';

/** A recolour that does something, and what it is done to. */
export interface PlainRecolour {
  program: Program;
  alpha: Float32Array;
}

/** The recolours of a frame that do something, in their order; undefined where the frame is not a plain one. */
export function plainRecolours(
  { codes: { width, height } }: SourceFrame,
  sightings: readonly SightingRender[],
  mattes: readonly Float32Array[],
): PlainRecolour[] | undefined {
  if (sightings.some(looksFurther)) return undefined;
  const active = sightings.flatMap(({ program }, k) =>
    program.strength === 0 || program.isNeutral ? [] : [{ program, alpha: mattes[k]! }],
  );
  const alphas = active.map((a) => a.alpha);
  return doOverlap(alphas, width, height) ? undefined : active;
}

/** Does any pixel belong to two mattes? */
export function doOverlap(mattes: readonly Float32Array[], width: number, height: number): boolean {
  if (mattes.length < 2) return false;
  const boxes = mattes.map((alpha) => boundsOfFinished(alpha, width, height));
  return mattes.some((a, k) =>
    mattes.slice(0, k).some((b, j) => {
      const box = boxes[k] && boxes[j] && sharedBox(boxes[k], boxes[j]);
      return box !== undefined && meetIn(a, b, width, box);
    }),
  );
}
function meetIn(a: Float32Array, b: Float32Array, width: number, { x0, y0, x1, y1 }: PixelBox): boolean {
  for (let y = y0; y < y1; y++)
    for (let i = y * width + x0; i < y * width + x1; i++) if (a[i]! > 0 && b[i]! > 0) return true;
  return false;
}

/** Linear light of single pixels, which ascend, after the recolours: to the bit what the planes of all would hold. */
export function plainLightAt(
  source: SourceFrame,
  recolours: readonly PlainRecolour[],
  pixels: Uint32Array,
  { root }: Tables,
): LinearPlanes {
  const light = source.lightAt(pixels);
  for (const { program, alpha } of recolours) {
    const own = gatheredPlane(alpha, pixels);
    // another piece's edge need not be known for this one's pixels
    if (!own.some((a) => a > 0)) continue;
    const edge = ownEdgeOf(source, alpha, undefined);
    recolourInto(light, own, program, root, edge && edgeAmong(edge, pixels));
  }
  return light;
}

/** The part of an edge that lies on these pixels; its index says where among them. */
export function edgeAmong(edge: EdgeColours, pixels: Uint32Array): EdgeColours {
  const [places, among] = [new Uint32Array(edge.index.length), new Uint32Array(edge.index.length)];
  let n = 0;
  for (let k = 0, p = 0; k < edge.index.length && p < pixels.length;) {
    if (edge.index[k] === pixels[p]) {
      places[n] = k++;
      among[n++] = p++;
    } else if (edge.index[k]! < pixels[p]!) k++;
    else p++;
  }
  const own = places.subarray(0, n);
  const { stray } = edge;
  return {
    index: among.slice(0, n),
    ...gatheredLight(edge, own),
    ...(stray && { stray: gatheredLight(stray, own) }),
  };
}
