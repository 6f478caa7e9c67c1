import type { Freedom } from '../document/motion.ts';
import { flexBetween, type Flex } from './flex.ts';
import {
  compose,
  homographyOfQuads,
  inverted,
  jacobianAt,
  project,
  projectQuad,
  STILL,
  type Homography,
  type Quad,
} from './homography.ts';

/** What is known of a track on one frame. */
export interface KnownMotion {
  motion: Homography;
  confidence: number;
  by: 'track' | 'hand';
  /** How the region bends beyond that motion, where it was tracked so. */
  flex?: Flex | undefined;
}
/** A track as its followers see it: its motion from the reference frame on every frame where it is known. */
export interface TrackMotion {
  referenceFrame: number;
  /** The region's bounding corners on the reference frame: what is interpolated where nothing is known. */
  quad: Quad;
  known: ReadonlyMap<number, KnownMotion>;
}
export type MotionState = 'tracked' | 'manual' | 'between' | 'held';

/** Which frames around one are known: the last at or before it, the first at or after it. */
function neighbours(
  { known, referenceFrame }: TrackMotion,
  frame: number,
): { before: number | undefined; after: number | undefined } {
  let [before, next]: [number | undefined, number | undefined] = [undefined, undefined];
  for (const f of [...known.keys(), referenceFrame]) {
    if (f <= frame && (before === undefined || f > before)) before = f;
    if (f >= frame && (next === undefined || f < next)) next = f;
  }
  return { before, after: next };
}
const quadAt = (track: TrackMotion, frame: number): Quad =>
  projectQuad(track.known.get(frame)?.motion ?? STILL, track.quad);
/**
 * Over so many known frames a velocity is taken: fewer, and the tracker's error in the last of them would bend the way
 * through the gap.
 */
const VELOCITY_FRAMES = 4;
const isKnown = (track: TrackMotion, frame: number) => frame === track.referenceFrame || track.known.has(frame);

/**
 * The region's bending on a frame: as tracked there, else between those of the frames around where it was; none on the
 * reference frame.
 */
export function bendAt({ known, referenceFrame }: TrackMotion, frame: number): Flex | undefined {
  const own = known.get(frame);
  if (own?.by === 'track' || frame === referenceFrame) return own?.by === 'track' ? own.flex : undefined;
  let [before, next]: [number | undefined, number | undefined] = [undefined, undefined];
  for (const [f, k] of [...known, [referenceFrame, { by: 'track' }] as const]) {
    if (k.by === 'hand') continue;
    if (f < frame && (before === undefined || f > before)) before = f;
    if (f > frame && (next === undefined || f < next)) next = f;
  }
  const flexOf = (f: number | undefined) => (f === undefined ? undefined : known.get(f)?.flex);
  if (before === undefined || next === undefined) return flexOf(before ?? next);
  return flexBetween(flexOf(before), flexOf(next), (frame - before) / (next - before));
}

/**
 * The motion from the reference frame to a frame. Between known frames the region's corners go on a cubic that takes up
 * their velocity on either side (where the frames next to the gap are known); beyond the ends they stay.
 */
export function motionAt(
  track: TrackMotion,
  frame: number,
): { motion: Homography; state: MotionState; confidence: number } {
  const known = track.known.get(frame);
  if (known)
    return { motion: known.motion, state: known.by === 'hand' ? 'manual' : 'tracked', confidence: known.confidence };
  if (frame === track.referenceFrame) return { motion: STILL, state: 'tracked', confidence: 1 };
  const { before, after: next } = neighbours(track, frame);
  if (before === undefined || next === undefined) {
    const only = before ?? next;
    return {
      motion: only === undefined ? STILL : (track.known.get(only)?.motion ?? STILL),
      state: 'held',
      confidence: 0,
    };
  }
  const span = next - before;
  const t = (frame - before) / span;
  const [p, q] = [quadAt(track, before), quadAt(track, next)];
  const velocity = (at: number, way: 1 | -1, corner: number, axis: 0 | 1): number => {
    let frames = 0;
    while (frames < VELOCITY_FRAMES && isKnown(track, at + way * (frames + 1))) frames++;
    if (frames === 0) return (q[corner]![axis] - p[corner]![axis]) / span;
    return (quadAt(track, at)[corner]![axis] - quadAt(track, at + way * frames)[corner]![axis]) / (-way * frames);
  };
  const [h00, h10, h01, h11] = [(1 + 2 * t) * (1 - t) ** 2, t * (1 - t) ** 2, t * t * (3 - 2 * t), t * t * (t - 1)];
  const quad = p.map((_, c) =>
    ([0, 1] as const).map(
      (axis) =>
        h00 * p[c]![axis] +
        h10 * span * velocity(before, -1, c, axis) +
        h01 * q[c]![axis] +
        h11 * span * velocity(next, 1, c, axis),
    ),
  ) as unknown as Quad;
  return { motion: homographyOfQuads(track.quad, quad) ?? STILL, state: 'between', confidence: 0 };
}

/**
 * The part of a motion that a follower takes: at the middle of the tracked region it is split into move, turn, even
 * scale, shear (stretch along and across) by polar decomposition, and what perspective is left.
 */
export function partOfMotion(motion: Homography, quad: Quad, parts: Freedom): Homography {
  const { move, turn, scale, shear, perspective } = parts;
  if (move && turn && scale && shear && perspective) return motion;
  const [cx, cy] = [(quad[0][0] + quad[2][0]) / 2, (quad[0][1] + quad[2][1]) / 2];
  const [a, b, c, d] = jacobianAt(motion, cx, cy);
  const [u, v] = project(motion, cx, cy);
  const affineAbout = (m: readonly [number, number, number, number], dx: number, dy: number): Homography => [
    m[0],
    m[1],
    cx + dx - m[0] * cx - m[1] * cy,
    m[2],
    m[3],
    cy + dy - m[2] * cx - m[3] * cy,
    0,
    0,
    1,
  ];
  const angle = Math.atan2(c - b, a + d);
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  // J = R·S with S symmetric; S = s·U with det U = 1
  const S = [cos * a + sin * c, cos * b + sin * d, -sin * a + cos * c, -sin * b + cos * d];
  const size = Math.sqrt(Math.abs(a * d - b * c));
  const U = S.map((x) => x / size) as [number, number, number, number];
  const k = scale ? size : 1;
  const kept = (shear ? U : [1, 0, 0, 1]).map((x) => x * k) as [number, number, number, number];
  const turned: [number, number, number, number] = turn
    ? [
        cos * kept[0] - sin * kept[2],
        cos * kept[1] - sin * kept[3],
        sin * kept[0] + cos * kept[2],
        sin * kept[1] + cos * kept[3],
      ]
    : kept;
  const part = affineAbout(turned, move ? u - cx : 0, move ? v - cy : 0);
  return perspective ? compose(part, compose(inverted(affineAbout([a, b, c, d], u - cx, v - cy)), motion)) : part;
}
