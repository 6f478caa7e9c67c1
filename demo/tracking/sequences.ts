// The tracked sequences: what is followed on which photograph, and what gets in the way. Used by tests and bench.
import { execFileSync } from 'node:child_process';
import { join } from 'node:path';
import {
  flexAt,
  maskOf,
  PlaneTracker,
  trackerFor,
  project,
  projectQuad,
  pyramidOf,
  regionQuad,
  type Freedom,
  type LossReason,
  type Mask,
} from '../../packages/core/src/index.ts';
import {
  cornerError,
  makeSequence,
  type Photograph,
  type SequenceSpec,
} from '../../packages/core/src/testing/sequences.ts';
import { words } from '../../packages/server/src/media/words.ts';

const made = new Map<string, Photograph>();
/** Luma of a photograph of `demo/photographs`. */
function photograph(name: string): Photograph {
  const known = made.get(name);
  if (known) return known;
  const file = join(import.meta.dirname, '../photographs', name);
  const [width, height] = execFileSync('ffprobe', [
    ...words('-v error -show_entries stream=width,height -of csv=p=0'),
    file,
  ])
    .toString()
    .trim()
    .split(',')
    .map(Number) as [number, number];
  const raw = execFileSync('ffmpeg', ['-v', 'error', '-i', file, '-f', 'rawvideo', '-pix_fmt', 'gray', '-'], {
    maxBuffer: 1e7,
  });
  const photo = { width, height, luma: Float32Array.from(raw, (v) => v / 255) };
  made.set(name, photo);
  return photo;
}

export const ALL: Freedom = { move: true, turn: true, scale: true, shear: true, perspective: true };
export const SIMILAR: Freedom = { move: true, turn: true, scale: true, shear: false, perspective: false };
export const MOVE: Freedom = { move: true, turn: false, scale: false, shear: false, perspective: false };

/**
 * The common case: 100 frames, zoom 0.7–1.4, turn ±25°, slight perspective, noise σ 2/255, gain ±15 %, motion blur 3
 * px, an occluder over 30 % of the region on frames 40–60.
 */
export const usual = (
  photo: string,
  region: SequenceSpec['region'],
  seed: number,
  other: Partial<SequenceSpec> = {},
): SequenceSpec => ({
  photograph: photograph(photo),
  region,
  width: 640,
  height: 480,
  frames: 100,
  seed,
  zoom: [0.7, 1.4],
  turnDeg: 25,
  perspective: 0.00025,
  panPx: 60,
  noise: 2 / 255,
  gain: 0.15,
  blurPx: 3,
  occluder: { share: 0.3, from: 40, to: 60, by: photograph('brick.png'), enters: 'slides' },
  ...other,
});
/** What covers more, or with another texture. */
export const covers = (
  share: number,
  by: string,
  enters: 'slides' | 'at once' | 'crosses' = 'slides',
  from = 40,
  to = 60,
): Pick<SequenceSpec, 'occluder'> => ({
  occluder: { share, from, to, by: by === 'grey' ? 'grey' : photograph(by), enters },
});

export interface Tracked {
  /** Corner error of each frame up to where it stopped. */
  errors: number[];
  confidences: number[];
  stopped: { frame: number; reason: LossReason; errorPx: number } | undefined;
  /** Milliseconds a frame, pictures' making left out. */
  ms: number;
  textureErrorPx: number;
}
/** Follows a sequence to its end or to where the tracker stops; `holdOut`: with the occluder drawn as one. */
export function follow(
  spec: SequenceSpec,
  freedom: Freedom = ALL,
  holdOut = false,
  sequence = makeSequence(spec),
): Tracked {
  const { width, height } = spec;
  const region = {
    form: 'spline' as const,
    points: sequence.region.map(([x, y]) => ({ x, y, inX: 0, inY: 0, outX: 0, outY: 0 })),
  };
  const tracker = trackerFor(
    pyramidOf(sequence.frame(0), width, height),
    maskOf(region, width, height),
    undefined,
    freedom,
  );
  const out: Tracked = {
    errors: [],
    confidences: [],
    stopped: undefined,
    ms: 0,
    textureErrorPx: tracker.textureErrorPx,
  };
  for (let t = 1; t < spec.frames; t++) {
    const luma = sequence.frame(t);
    const over = holdOut ? sequence.occluded(t) : undefined;
    const mask: Mask | undefined = over && {
      width,
      height,
      inside: Uint8Array.from({ length: width * height }, (_, i) =>
        i % width >= over.x0 - 1 && i % width <= over.x1 + 1 ? 1 : 0,
      ),
    };
    const start = performance.now();
    const found = tracker.step(pyramidOf(luma, width, height), mask);
    out.ms += performance.now() - start;
    const error = cornerError(projectQuad(found.motion, sequence.region), sequence.corners[t]!);
    out.confidences.push(found.confidence);
    if (found.lost) {
      out.stopped = { frame: t, reason: found.lost, errorPx: error };
      break;
    }
    out.errors.push(error);
  }
  out.ms /= Math.max(out.errors.length, 1);
  return out;
}
/**
 * Follows a waving sequence with its bending; mean error of 9 × 9 places of the region, per frame, up to where it
 * stops.
 */
export function followSoft(spec: SequenceSpec): number[] {
  const { width, height } = spec;
  const sequence = makeSequence(spec);
  const region = {
    form: 'spline' as const,
    points: sequence.region.map(([x, y]) => ({ x, y, inX: 0, inY: 0, outX: 0, outY: 0 })),
  };
  const quad = regionQuad(region);
  const tracker = new PlaneTracker(
    pyramidOf(sequence.frame(0), width, height),
    maskOf(region, width, height),
    undefined,
    { ...ALL, flex: true },
  );
  const errors: number[] = [];
  for (let t = 1; t < spec.frames; t++) {
    const found = tracker.step(pyramidOf(sequence.frame(t), width, height));
    if (found.lost) break;
    let sum = 0;
    for (let k = 0; k < 81; k++) {
      const share = (i: number, lo: number, hi: number) => lo + (hi - lo) * (0.05 + (0.9 * i) / 8);
      const [x, y] = [share(k % 9, quad[0][0], quad[2][0]), share(Math.floor(k / 9), quad[0][1], quad[2][1])];
      const [dx, dy] = found.flex ? flexAt(found.flex, quad, x, y) : [0, 0];
      const [px, py] = project(found.motion, x + dx, y + dy);
      const [tx, ty] = sequence.placeAt(t, x, y);
      sum += Math.hypot(px - tx, py - ty);
    }
    errors.push(sum / 81);
  }
  return errors;
}
export const mean = (values: readonly number[]): number =>
  values.reduce((a, b) => a + b, 0) / Math.max(values.length, 1);
