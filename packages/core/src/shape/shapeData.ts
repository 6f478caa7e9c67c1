import type { Keyframe } from '../document/animation.ts';
import type { Geometry, PathPoint } from '../document/geometry.ts';
import type { ShapeLayer } from '../document/layer.ts';
import { carriedThere, placeOf, type Motions } from '../animate/place.ts';
import { ownGeometryAt } from '../animate/layerAt.ts';
import { motionAt, type TrackMotion } from '../track/trackMotion.ts';
import { pathOf } from './path.ts';
import { pathFromSvg, svgFromPath } from './svgPath.ts';

/**
 * A shape frame by frame, as it lies on the picture: what is written to a file and read from one. See docs/formats.md.
 */
export interface ShapeData {
  kind: 'shape-frames';
  version: 1;
  name: string;
  /** Size of the picture the pixels are of. */
  width: number;
  height: number;
  /** Frame number in the shot, and the outline as SVG path data, in full-resolution picture pixels. */
  frames: { frame: number; path: string }[];
}
/** A track's motion frame by frame, 3×3 row by row, from the reference frame's pixels. */
export interface TrackData {
  kind: 'track-frames';
  version: 1;
  name: string;
  width: number;
  height: number;
  referenceFrame: number;
  frames: { frame: number; motion: readonly number[]; state: string; confidence: number }[];
}

/** Every frame of a shot with the layer's outline there, placed and on its track. */
export function shapeDataOf(
  name: string,
  layer: ShapeLayer,
  frames: number,
  size: { width: number; height: number },
  motions: Motions,
): ShapeData {
  // points kept: read in again, every frame must have as many
  const at = (frame: number) =>
    svgFromPath(pathOf(carriedThere(ownGeometryAt(layer, frame), placeOf(layer, frame, motions), true)));
  return {
    kind: 'shape-frames',
    version: 1,
    name,
    ...size,
    frames: Array.from({ length: frames }, (_, frame) => ({ frame, path: at(frame) })),
  };
}
export function trackDataOf(
  name: string,
  track: TrackMotion,
  frames: number,
  size: { width: number; height: number },
): TrackData {
  return {
    kind: 'track-frames',
    version: 1,
    name,
    ...size,
    referenceFrame: track.referenceFrame,
    frames: Array.from({ length: frames }, (_, frame) => ({ frame, ...motionAt(track, frame) })),
  };
}

/** What a file that says it is shape data may hold. */
type Unchecked = Omit<ShapeData, 'frames'> & { frames: { frame: number; path: unknown }[] };

/**
 * Keyframes of a path from shape data or bare SVG path data. With `firstFrame` the frames are moved so that the first
 * stands there; else their numbers are kept. Throws SyntaxError saying what is wrong, and on which frame.
 */
export function pathKeyframesFrom(text: string, firstFrame?: number): { name: string; keys: Keyframe<Geometry>[] } {
  const spline = (points: PathPoint[]): Geometry => ({ form: 'spline', points });
  if (!text.trimStart().startsWith('{'))
    return {
      name: 'Shape from a file',
      keys: [
        { frame: firstFrame ?? 0, value: spline(pathFromSvg(/\sd="([^"]+)"/.exec(text)?.[1] ?? text)), ease: 'linear' },
      ],
    };
  let data: Partial<Unchecked>;
  try {
    data = JSON.parse(text) as Partial<Unchecked>;
  } catch (error) {
    throw new SyntaxError(`The file is not valid JSON: ${(error as Error).message}`, { cause: error });
  }
  if (data.kind !== 'shape-frames' || data.version !== 1 || !Array.isArray(data.frames) || data.frames.length === 0)
    throw new SyntaxError(
      'The file holds no shape frames: “kind” must be shape-frames, “version” 1, and “frames” a list.',
    );
  const read = data.frames.map(({ frame, path }) => {
    if (!Number.isInteger(frame) || frame < 0) throw new SyntaxError(`“${frame}” is no frame number`);
    try {
      return { frame, value: spline(pathFromSvg(String(path))), ease: 'linear' as const };
    } catch (error) {
      throw new SyntaxError(`Frame ${frame}: ${(error as Error).message}`, { cause: error });
    }
  });
  read.sort((a, b) => a.frame - b.frame);
  const count = (g: Geometry) => (g as { points: PathPoint[] }).points.length;
  const odd = read.find((k) => count(k.value) !== count(read[0]!.value));
  if (odd)
    throw new SyntaxError(
      `Frame ${odd.frame} has ${count(odd.value)} points, frame ${read[0]!.frame} has ` +
        `${count(read[0]!.value)}: all frames need as many.`,
    );
  const by = firstFrame === undefined ? 0 : firstFrame - read[0]!.frame;
  return {
    name: typeof data.name === 'string' && data.name ? data.name.slice(0, 120) : 'Shape from a file',
    keys: read.filter((k, i) => i === 0 || k.frame !== read[i - 1]!.frame).map((k) => ({ ...k, frame: k.frame + by })),
  };
}
