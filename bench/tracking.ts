// The tracker on sequences with known motion, beside a general-purpose library's optical flow and robust homography.
import { FOLLOWED, slides } from '../demo/tracking/followed.ts';
import { ALL, covers, follow, followSoft, mean, MOVE, SIMILAR, usual } from '../demo/tracking/sequences.ts';
import { cv, cvReady } from '../packages/core/src/testing/opencv.ts';
import { cornerError, makeSequence, type Sequence, type SequenceSpec } from '../packages/core/src/testing/sequences.ts';
import { maskOf, type Freedom, type Quad } from '../packages/core/src/index.ts';

type CvMat = InstanceType<typeof cv.Mat>;

export interface TrackingRow {
  name: string;
  ours: { mean: number; max: number; frames: number; ms: number; stopped: string };
  theirs: { mean: number; max: number; ms: number };
}
type Case = [name: string, spec: () => SequenceSpec, freedom?: Freedom, holdOut?: boolean];
const CASES: Case[] = [
  ['astronaut, 30 % covered', () => usual('astronaut.png', [120, 150, 380, 400], 1)],
  ['coffee, 30 %', () => usual('coffee.png', [150, 100, 420, 320], 3)],
  ['parrot, 30 %', () => usual('parrot.png', [120, 120, 360, 360], 4)],
  [
    'astronaut, an eighth of the contrast, 30 %',
    () => usual('astronaut.png', [120, 150, 380, 400], 11, { contrast: 0.125 }),
  ],
  ['coffee, 55 %', () => usual('coffee.png', [150, 100, 420, 320], 16, covers(0.55, 'brick.png'))],
  [
    'coffee, 55 %, drawn as a hold-out',
    () => usual('coffee.png', [150, 100, 420, 320], 16, covers(0.55, 'brick.png')),
    ALL,
    true,
  ],
  [
    'astronaut, move, turn and scale only',
    () => usual('astronaut.png', [120, 150, 380, 400], 17, { perspective: 0 }),
    SIMILAR,
  ],
  [
    'coffee, move only',
    () => usual('coffee.png', [150, 100, 420, 320], 18, { perspective: 0, zoom: [1, 1], turnDeg: 0 }),
    MOVE,
  ],
  [
    'dark flat corner, bright textured cover 50 %',
    () => usual('coffee.png', [480, 20, 590, 140], 19, { contrast: 0.3, lift: -0.1, ...covers(0.5, 'grass.png') }),
  ],
  [
    'coffee in 64 frames, 55 %',
    () => usual('coffee.png', [150, 100, 420, 320], 16, { ...covers(0.55, 'brick.png'), frames: 64 }),
  ],
  [
    'coffee in 64 frames, 55 %, drawn as a hold-out',
    () => usual('coffee.png', [150, 100, 420, 320], 16, { ...covers(0.55, 'brick.png'), frames: 64 }),
    ALL,
    true,
  ],
  ['grass, 30 %', () => usual('grass.png', [140, 140, 370, 370], 101)],
  ['brick, covered by grass', () => usual('brick.png', [140, 140, 370, 370], 102, covers(0.3, 'grass.png'))],
  ['parrot, 55 % by grass', () => usual('parrot.png', [140, 140, 340, 340], 103, covers(0.55, 'grass.png'))],
  ['coffee, wood only, 30 %', () => usual('coffee.png', [20, 20, 150, 150], 104)],
  [
    'brick, an eighth of the contrast, 30 %',
    () => usual('brick.png', [120, 120, 390, 390], 201, { contrast: 0.125, ...covers(0.3, 'coffee.png') }),
  ],
  [
    'astronaut, suit and flag, 55 % by coffee',
    () => usual('astronaut.png', [40, 230, 300, 470], 202, covers(0.55, 'coffee.png')),
  ],
  [
    'parrot, move only',
    () => usual('parrot.png', [100, 150, 330, 380], 203, { perspective: 0, zoom: [1, 1], turnDeg: 0 }),
    MOVE,
  ],
  [
    'astronaut, covered at once on 50–57',
    () => usual('astronaut.png', [120, 150, 380, 400], 105, covers(1.2, 'brick.png', 'at once', 50, 57)),
  ],
  // made after the method was frozen
  ['unseen: parrot, 30 % by coffee', () => usual('parrot.png', [150, 90, 390, 330], 401, covers(0.3, 'coffee.png'))],
  [
    'unseen: astronaut in 70 frames, 55 % by grass',
    () => usual('astronaut.png', [100, 120, 360, 390], 402, { ...covers(0.55, 'grass.png'), frames: 70 }),
  ],
  [
    'unseen: grass, a tenth of the contrast, 30 % by astronaut',
    () => usual('grass.png', [130, 120, 380, 380], 403, { contrast: 0.1, ...covers(0.3, 'astronaut.png') }),
  ],
  [
    'unseen: brick, move only',
    () => usual('brick.png', [120, 130, 380, 380], 404, { perspective: 0, zoom: [1, 1], turnDeg: 0 }),
    MOVE,
  ],
  [
    'unseen: coffee, dark corner, 50 % by brick',
    () => usual('coffee.png', [20, 260, 150, 390], 405, { contrast: 0.3, lift: -0.1, ...covers(0.5, 'brick.png') }),
  ],
  [
    'unseen: parrot, covered at once on 50–57 by grass',
    () => usual('parrot.png', [120, 120, 360, 360], 406, covers(1.2, 'grass.png', 'at once', 50, 57)),
  ],
];

/** Corners, pyramidal Lucas–Kanade and a robust homography from frame to frame, chained: OpenCV's own functions. */
function chained(spec: SequenceSpec, s: Sequence): { mean: number; max: number; ms: number } {
  const { width, height } = spec;
  const image = (t: number) =>
    cv.matFromArray(
      height,
      width,
      cv.CV_8UC1,
      Uint8Array.from(s.frame(t), (v) => Math.round(v * 255)),
    );
  let [quad, previous]: [Quad, CvMat] = [s.region, image(0)];
  const errors: number[] = [];
  let ms = 0;
  for (let t = 1; t < spec.frames; t++) {
    const next = image(t);
    const start = performance.now();
    const inside = maskOf(
      { form: 'spline', points: quad.map(([x, y]) => ({ x, y, inX: 0, inY: 0, outX: 0, outY: 0 })) },
      width,
      height,
    ).inside.map((v) => v * 255);
    const [mask, corners, moved, status, error] = [
      cv.matFromArray(height, width, cv.CV_8UC1, inside),
      new cv.Mat(),
      new cv.Mat(),
      new cv.Mat(),
      new cv.Mat(),
    ];
    cv.goodFeaturesToTrack(previous, corners, 300, 0.005, 5, mask);
    if (corners.rows >= 8) {
      cv.calcOpticalFlowPyrLK(previous, next, corners, moved, status, error);
      const kept = Array.from({ length: corners.rows }, (_, i) => i).filter((i) => status.data[i] === 1);
      const pairs = (m: CvMat) =>
        cv.matFromArray(
          kept.length,
          1,
          cv.CV_32FC2,
          kept.flatMap((i) => [m.data32F[2 * i]!, m.data32F[2 * i + 1]!]),
        );
      const [a, b] = [pairs(corners), pairs(moved)];
      if (kept.length >= 8) {
        const h = cv.findHomography(a, b, cv.RANSAC as number, 1.5);
        const m = h.data64F;
        // OpenCV's pixels have their centres at whole numbers
        if (m.length === 9)
          quad = quad.map(([x0, y0]) => {
            const [x, y] = [x0 - 0.5, y0 - 0.5];
            const w = m[6]! * x + m[7]! * y + m[8]!;
            return [(m[0]! * x + m[1]! * y + m[2]!) / w + 0.5, (m[3]! * x + m[4]! * y + m[5]!) / w + 0.5];
          }) as unknown as Quad;
        h.delete();
      }
      a.delete();
      b.delete();
    }
    for (const m of [mask, corners, moved, status, error, previous]) m.delete();
    previous = next;
    ms += performance.now() - start;
    errors.push(cornerError(quad, s.corners[t]!));
  }
  previous.delete();
  return { mean: mean(errors), max: Math.max(...errors), ms: ms / errors.length };
}

/** Frames by their confidence: how many, and how large their error was. */
export interface ConfidenceRow {
  range: string;
  frames: number;
  mean: number;
  p95: number;
  max: number;
}
const EDGES = [0, 0.34, 0.5, 0.6, 0.7, 0.8, 0.9, 1.0001];

/** Each sequence through ours and theirs, on the same frames; then confidence against error over all of them. */
export async function benchTracking(each: (row: TrackingRow) => void): Promise<ConfidenceRow[]> {
  await cvReady();
  const believed: { confidence: number; error: number }[] = [];
  for (const [name, make, freedom, holdOut] of CASES) {
    const spec = make();
    const made = makeSequence(spec);
    const frames = Array.from({ length: spec.frames }, (_, t) => made.frame(t));
    const sequence = { ...made, frame: (t: number) => frames[t]! };
    const t = follow(spec, freedom, holdOut, sequence);
    t.confidences.forEach((confidence, i) => believed.push({ confidence, error: t.errors[i] ?? t.stopped!.errorPx }));
    each({
      name,
      ours: {
        mean: mean(t.errors),
        max: Math.max(...t.errors),
        frames: t.errors.length,
        ms: t.ms,
        stopped: t.stopped ? `${t.stopped.reason} on ${t.stopped.frame}` : '',
      },
      theirs: chained(spec, sequence),
    });
  }
  return EDGES.slice(0, -1).map((lo, i) => {
    const errors = believed
      .filter((b) => b.confidence >= lo && b.confidence < EDGES[i + 1]!)
      .map((b) => b.error)
      .sort((a, b) => a - b);
    return {
      range: `${lo.toFixed(2)}–${Math.min(EDGES[i + 1]!, 1).toFixed(2)}`,
      frames: errors.length,
      mean: mean(errors),
      p95: errors[Math.floor(errors.length * 0.95)] ?? 0,
      max: errors.at(-1) ?? 0,
    };
  });
}

/**
 * Milliseconds a frame at 1280×720 on a region of 400×400, 300 points, once decoded; the error of a soft surface's
 * places; the slide of followed shapes in the demo.
 */
export function benchTrackingMore(): {
  speedMs: number;
  soft: { name: string; mean: number; max: number }[];
  followed: { name: string; mean: number; max: number }[];
} {
  const spec = usual('astronaut.png', [56, 56, 456, 456], 301, {
    width: 1280,
    height: 720,
    frames: 24,
    zoom: [0.95, 1.05],
    turnDeg: 5,
    occluder: undefined,
  });
  const made = makeSequence(spec);
  const frames = Array.from({ length: spec.frames }, (_, t) => made.frame(t));
  const again = () => follow(spec, ALL, false, { ...made, frame: (t) => frames[t]! });
  // the first time through is the compiler's
  again();
  const large = again();
  const wave = (
    photo: string,
    region: SequenceSpec['region'],
    seed: number,
    lengthPx: number,
    other: Partial<SequenceSpec> = {},
  ) =>
    followSoft(
      usual(photo, region, seed, {
        frames: 60,
        turnDeg: 8,
        zoom: [0.9, 1.15],
        occluder: undefined,
        wave: { px: 6, lengthPx },
        ...other,
      }),
    );
  const soft = [
    { name: 'astronaut, 200 px long', errors: wave('astronaut.png', [120, 150, 380, 400], 31, 200) },
    { name: 'coffee, 160 px long', errors: wave('coffee.png', [150, 100, 420, 320], 32, 160) },
    {
      name: 'astronaut, 200 px long, 30 % covered on 25–40',
      errors: wave('astronaut.png', [120, 150, 380, 400], 33, 200, covers(0.3, 'brick.png', 'slides', 25, 40)),
    },
  ];
  const followed = FOLLOWED.map((f) => {
    const { px, tracked } = slides(f);
    return {
      name:
        `${f.piece}, ${f.file}, ${f.keys.length + (f.hand ? 1 : 0)} ` +
        `keyframes${f.again ? ' and the region set once by hand' : ''}, ${tracked} frames tracked, ` +
        `${px.length} measured`,
      mean: mean(px),
      max: Math.max(...px),
    };
  });
  return {
    followed,
    speedMs: large.ms,
    soft: soft.map(({ name, errors }) => ({
      name: `${name}, ${errors.length} frames`,
      mean: mean(errors),
      max: Math.max(...errors),
    })),
  };
}
