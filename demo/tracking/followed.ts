// A followed shape against the demo's ground truth: on the reference frame it is the piece's own outline (the truth of
// that frame); carried by the track and by placement keyframes it is laid over the truth of every other frame. What is
// measured is how far it has slid. Keyframes are what a hand sets, to the half pixel.
import { execFileSync } from 'node:child_process';
import { join } from 'node:path';
import {
  compose,
  slipOf,
  slipReference,
  maskOf,
  motionAt,
  placementAbout,
  PlaneTracker,
  placeOf,
  pyramidOf,
  type Freedom,
  type Homography,
  type KnownMotion,
  type NumberKeyframe,
  type Pyramid,
  type Quad,
} from '../../packages/core/src/index.ts';

const demo = join(import.meta.dirname, '..');
const [W, H] = [1280, 720];
const ALL: Freedom = { move: true, turn: true, scale: true, shear: true, perspective: true };
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
  /**
   * On the near side of an occluder: the region is set by hand on a frame, moved by so much, and tracked on backwards
   * from there.
   */
  again?: { frame: number; across: number; down: number };
  /** A keyframe over the track, set in the gap it could not see: the region dragged by so much, in its moving frame. */
  hand?: { frame: number; across: number; down: number };
  /** Frames taken out again, where the tracker ran astray beside the occluder. */
  binned?: readonly number[];
}

function decoded(file: string, pixels: 'gray' | 'gray16le', scale: 1 | 4): Buffer {
  return execFileSync(
    'ffmpeg',
    [
      '-v',
      'error',
      '-i',
      join(demo, file),
      '-vf',
      `scale=${W / scale}:${H / scale}`,
      '-f',
      'rawvideo',
      '-pix_fmt',
      pixels,
      '-',
    ],
    { maxBuffer: 2e8 },
  );
}

/**
 * Slide of the followed shape on every frame where enough of its outline is seen, pixels; and how many frames were
 * tracked.
 */
export function slides({
  file,
  piece,
  frame: reference,
  region: [x0, y0, x1, y1],
  freedom,
  keys,
  again,
  hand,
  binned = [],
}: Followed): { px: number[]; tracked: number } {
  const luma = decoded(`media/${file}.mp4`, 'gray16le', 1);
  const codes = new Uint16Array(luma.buffer.slice(luma.byteOffset, luma.byteOffset + luma.length));
  const frames = codes.length / (W * H);
  const pyramid = (t: number): Pyramid =>
    pyramidOf(
      Float32Array.from(codes.subarray(t * W * H, (t + 1) * W * H), (v) => v / 65535),
      W,
      H,
    );
  const region = maskOf(
    { form: 'rectangle', cx: (x0 + x1) / 2, cy: (y0 + y1) / 2, width: x1 - x0, height: y1 - y0, turnDeg: 0 },
    W,
    H,
  );
  const known = new Map<number, KnownMotion>();
  const quad: Quad = [
    [x0, y0],
    [x1, y0],
    [x1, y1],
    [x0, y1],
  ];
  const run = (from: number, way: 1 | -1, guess?: Homography) => {
    const tracker = new PlaneTracker(pyramid(reference), region, undefined, freedom);
    for (let t = from; t >= 0 && t < frames; t += way) {
      const { motion, confidence, lost } =
        guess && t === from ? tracker.resume(pyramid(t), guess) : tracker.step(pyramid(t));
      if (lost) return;
      known.set(t, { motion, confidence, by: 'track' });
    }
  };
  run(reference + 1, 1);
  run(reference - 1, -1);
  if (again) run(again.frame, -1, [1, 0, again.across, 0, 1, again.down, 0, 0, 1]);
  for (const t of binned) known.delete(t);
  if (hand) {
    const { motion } = motionAt({ referenceFrame: reference, quad, known }, hand.frame);
    known.set(hand.frame, {
      motion: compose(motion, [1, 0, hand.across, 0, 1, hand.down, 0, 0, 1]),
      confidence: 1,
      by: 'hand',
    });
  }
  const motions = new Map([['track', { referenceFrame: reference, quad, known }]]);
  const along = (axis: 1 | 2): NumberKeyframe[] =>
    [
      ...keys.map((k): NumberKeyframe => ({ frame: k[0], value: k[axis], ease: 'linear' })),
      { frame: reference, value: 0, ease: 'linear' as const },
    ].sort((a, b) => a.frame - b.frame);
  const layer = {
    placement: placementAbout(0, 0),
    animated: { 'placement.moveX': along(1), 'placement.moveY': along(2) },
    follow: { trackId: 'track', ...freedom },
  };
  const mattes = decoded(`truth/${file}.${piece}.mkv`, 'gray', 4);
  const truth = (t: number) =>
    Float32Array.from(mattes.subarray((t * W * H) / 16, ((t + 1) * W * H) / 16), (v) => v / 255);
  const own = slipReference(truth(reference), W / 4, H / 4, 0.25);
  const px = Array.from({ length: frames }, (_, t) => {
    const { placed, followed } = placeOf(layer, t, motions);
    return slipOf(own, truth(t), compose(followed, placed))?.px;
  });
  return { px: px.filter((v) => v !== undefined), tracked: known.size + 1 };
}

export const FOLLOWED: readonly Followed[] = [
  // behind the chair: three keyframes
  {
    file: 'shot-2-cafe',
    piece: 'suitcase',
    frame: 24,
    region: [380, 262, 640, 640],
    freedom: { ...MOVE_TURN_SCALE, turn: false },
    keys: [
      [0, 1, 1],
      [12, 0.5, 0.5],
      [47, -1, -1.5],
    ],
  },
  // a box seen more and more from the side: its outline slides against its front
  {
    file: 'shot-1-platform',
    piece: 'suitcase',
    frame: 24,
    region: [290, 290, 545, 690],
    freedom: { ...MOVE_TURN_SCALE, shear: true },
    keys: [
      [0, -3, 0.5],
      [47, 2, 0],
    ],
  },
  // behind the lamp post and off the picture: drawn on the far side, where the fender is seen to the end
  {
    file: 'shot-3-street',
    piece: 'scooter',
    frame: 32,
    region: [345, 415, 540, 645],
    freedom: ALL,
    keys: [[5, -1, -1]],
    again: { frame: 10, across: 445, down: -4 },
    hand: { frame: 18, across: 1.5, down: -4.5 },
    binned: [6, 7, 10, 27, 28],
  },
  // a box that turns, out of focus at first: what is its outline changes
  {
    file: 'shot-4-turn',
    piece: 'suitcase',
    frame: 24,
    region: [500, 110, 1090, 715],
    freedom: ALL,
    keys: [
      [1, -17, -0.5],
      [12, -5.5, 0],
      [18, 0, -0.5],
      [32, 0.5, 0.5],
      [40, -8, 0.5],
      [46, -15.5, 0.5],
    ],
  },
  { file: 'shot-5-gate', piece: 'scarf', frame: 24, region: [870, 190, 1240, 640], freedom: MOVE_TURN_SCALE, keys: [] },
  {
    file: 'shot-5-gate',
    piece: 'lantern',
    frame: 24,
    region: [110, 150, 310, 410],
    freedom: MOVE_TURN_SCALE,
    keys: [],
  },
];
