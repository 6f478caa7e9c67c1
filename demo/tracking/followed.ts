// A followed shape against the demo's ground truth: on the reference frame it is the piece's own outline (the truth of that
// frame); carried by the track and by placement keyframes it is laid over the truth of every other frame. What is
// measured is how far it has slid. Keyframes are what a hand sets, to the half pixel: at most three.
import { execFileSync } from 'node:child_process';
import { join } from 'node:path';
import { after, driftOf, maskOf, placementAbout, PlaneTracker, placeOf, pyramidOf, type Freedom, type KnownMotion, type NumberKey, type Pyramid } from '../../packages/core/src/index.ts';

const demo = join(import.meta.dirname, '..');
const [W, H] = [1280, 720];
const MOVE_TURN_SCALE: Freedom = { move: true, turn: true, scale: true, shear: false, perspective: false };

export interface Followed {
  file: string;
  piece: string;
  /** The frame the region and the outline were drawn on. */
  frame: number;
  region: readonly [x0: number, y0: number, x1: number, y1: number];
  freedom: Freedom;
  /** Frame, across, down: the shape's placement in the track's moving frame. */
  keys: readonly (readonly [number, number, number])[];
}

function decoded(file: string, pixels: 'gray' | 'gray16le', scale: 1 | 4): Buffer {
  return execFileSync('ffmpeg', ['-v', 'error', '-i', join(demo, file), '-vf', `scale=${W / scale}:${H / scale}`, '-f', 'rawvideo', '-pix_fmt', pixels, '-'], { maxBuffer: 2e8 });
}

/** Slide of the followed shape on every frame, pixels. Throws where a frame is lost to the track. */
export function slides({ file, piece, frame: reference, region: [x0, y0, x1, y1], freedom, keys }: Followed): number[] {
  const luma = decoded(`media/${file}.mp4`, 'gray16le', 1);
  const codes = new Uint16Array(luma.buffer.slice(luma.byteOffset, luma.byteOffset + luma.length));
  const frames = codes.length / (W * H);
  const pyramid = (t: number): Pyramid => pyramidOf(Float32Array.from(codes.subarray(t * W * H, (t + 1) * W * H), (v) => v / 65535), W, H);
  const region = maskOf({ form: 'rectangle', cx: (x0 + x1) / 2, cy: (y0 + y1) / 2, width: x1 - x0, height: y1 - y0, turnDeg: 0 }, W, H);
  const known = new Map<number, KnownMotion>();
  for (const way of [1, -1]) {
    const tracker = new PlaneTracker(pyramid(reference), region, undefined, freedom);
    for (let t = reference + way; t >= 0 && t < frames; t += way) {
      const { motion, confidence, lost } = tracker.step(pyramid(t));
      if (lost) throw new Error(`${file}: lost on frame ${t}, ${lost}`);
      known.set(t, { motion, confidence, by: 'track' });
    }
  }
  const motions = new Map([['track', { referenceFrame: reference, quad: [[x0, y0], [x1, y0], [x1, y1], [x0, y1]] as const, known }]]);
  const along = (axis: 1 | 2): NumberKey[] => [...keys.map((k): NumberKey => ({ frame: k[0], value: k[axis], ease: 'linear' })), { frame: reference, value: 0, ease: 'linear' as const }].sort((a, b) => a.frame - b.frame);
  const layer = { placement: placementAbout(0, 0), animated: { 'placement.moveX': along(1), 'placement.moveY': along(2) }, follow: { trackId: 'track', ...freedom } };
  const mattes = decoded(`truth/${file}.${piece}.mkv`, 'gray', 4);
  const truth = (t: number) => Float32Array.from(mattes.subarray((t * W * H) / 16, ((t + 1) * W * H) / 16), (v) => v / 255);
  return Array.from({ length: frames }, (_, t) => {
    const { placed, followed } = placeOf(layer, t, motions);
    return driftOf(truth(reference), truth(t), W / 4, H / 4, 0.25, after(followed, placed))!.px;
  });
}

export const FOLLOWED: readonly Followed[] = [
  // behind the chair: three keyframes
  { file: 'shot-2-cafe', piece: 'suitcase', frame: 24, region: [380, 262, 640, 640], freedom: { ...MOVE_TURN_SCALE, turn: false }, keys: [[0, 1, 1], [12, 0.5, 0.5], [47, -1, -1.5]] },
  // a box seen more and more from the side: its outline slides against its front
  { file: 'shot-1-platform', piece: 'suitcase', frame: 24, region: [290, 290, 545, 690], freedom: { ...MOVE_TURN_SCALE, shear: true }, keys: [[0, -3, 0.5], [47, 2, 0]] },
  { file: 'shot-5-gate', piece: 'scarf', frame: 24, region: [870, 190, 1240, 640], freedom: MOVE_TURN_SCALE, keys: [] },
  { file: 'shot-5-gate', piece: 'lantern', frame: 24, region: [110, 150, 310, 410], freedom: MOVE_TURN_SCALE, keys: [] },
];
