// Edits of tracks: their regions, hold-outs, keyframes by hand and the runs that count.
import type { Geometry, HoldOut, ProjectDocument, Track } from '@mellow/contract';
import {
  compose,
  motionAt,
  pathOf,
  projectedGeometry,
  projectQuad,
  regionQuad,
  withKeyframe,
  type Freedom,
  type Homography,
  type TrackMotion,
} from '@mellow/core';
import type { Change } from '../editing/change.ts';
import { fittedMotion } from './fittedMotion.ts';
import type { Place } from './place.ts';

/** Parts of a motion that a track may make and a follower may take. */
export const MOTION_PARTS = [
  'move',
  'turn',
  'scale',
  'shear',
  'perspective',
  'flex',
] as const satisfies readonly (keyof Freedom)[];
export const ALL_MOTION: Freedom = { move: true, turn: true, scale: true, shear: true, perspective: true };
const asSpline = (geometry: Geometry): Geometry =>
  geometry.form === 'spline' || geometry.form === 'gradient' ? geometry : { form: 'spline', points: pathOf(geometry) };

export const putTrack = (label: string, track: Track): Change => ({
  label,
  edits: [{ kind: 'track', id: track.id, value: track }],
});
export const removeTrack = ({ id, name }: Track): Change => ({
  label: `Remove ${name}`,
  edits: [{ kind: 'track', id, value: null }],
});

/** A new track of the shot in hand, whose region was drawn on this frame. */
export function drawTrack(document: ProjectDocument, place: Place, region: Geometry): { change: Change; track: Track } {
  const others = document.tracks.filter((t) => t.value.shotId === place.shotId);
  const track: Track = {
    id: crypto.randomUUID(),
    projectId: document.project.value.id,
    shotId: place.shotId!,
    name: `Track ${others.length + 1}`,
    referenceFrame: place.frame,
    region: asSpline(region),
    freedom: ALL_MOTION,
    holdOuts: [],
    manual: [],
    runs: [],
  };
  return { change: putTrack(`Draw ${track.name}`, track), track };
}
export function drawHoldOut(track: Track, geometry: Geometry): Change {
  const name = `Hold-out ${track.holdOuts.length + 1}`;
  const made: HoldOut = { id: crypto.randomUUID(), name, on: true, geometry: asSpline(geometry) };
  return putTrack(`Draw ${name} of ${track.name}`, { ...track, holdOuts: [...track.holdOuts, made] });
}

/** Where the track's region lies on a frame, as a path to draw and to take hold of. */
export const regionOn = (track: Track, motion: TrackMotion, frame: number): Geometry =>
  projectedGeometry(track.region, motionAt(motion, frame).motion, true);

/** A keyframe over the track: where its region's corners are on a frame. */
export function withManual(track: Track, frame: number, motion: Homography): Track {
  const corners = projectQuad(motion, regionQuad(track.region)) as unknown as Track['manual'][number]['corners'];
  const keyframes = track.manual.map((m) => ({ frame: m.frame, value: m.corners, ease: 'linear' as const }));
  const next = withKeyframe(keyframes, { frame, value: corners, ease: 'linear' });
  return { ...track, manual: next.map((k) => ({ frame: k.frame, corners: k.value })) };
}

/**
 * The region moved by hand on a frame: the region itself on the frame it was drawn on, else a keyframe over the track.
 * Undefined where the new outline has another number of points, or no motion fits it.
 */
export function regionMoved(track: Track, motion: TrackMotion, frame: number, geometry: Geometry): Track | undefined {
  if (geometry.form !== 'spline' || track.region.form !== 'spline') return undefined;
  if (frame === track.referenceFrame) return { ...track, region: geometry };
  const from = pathOf(regionOn(track, motion, frame));
  if (from.length !== geometry.points.length) return undefined;
  const step = fittedMotion(from, geometry.points, track.freedom);
  return step && withManual(track, frame, compose(step, motionAt(motion, frame).motion));
}

/** Sets a keyframe where the track is on this frame, or takes away the one that is here. */
export function toggleTrackKeyframe(track: Track, motion: TrackMotion, frame: number): Change {
  if (track.manual.some((m) => m.frame === frame))
    return putTrack(`Take away the keyframe of ${track.name} on frame ${frame}`, {
      ...track,
      manual: track.manual.filter((m) => m.frame !== frame),
    });
  const label = `Set a keyframe of ${track.name} on frame ${frame}`;
  return putTrack(label, withManual(track, frame, motionAt(motion, frame).motion));
}

/** Frames of the runs and keyframes from here on, or up to here, no longer count. */
export function binTrackFrames(track: Track, which: 'from' | 'up to', frame: number): Change {
  const isFrom = which === 'from';
  const runs = track.runs
    .map((r) => (isFrom ? { ...r, last: Math.min(r.last, frame - 1) } : { ...r, first: Math.max(r.first, frame + 1) }))
    .filter((r) => r.first <= r.last && r.last >= 0);
  const manual = track.manual.filter((m) => (isFrom ? m.frame < frame : m.frame > frame));
  return putTrack(`Bin the frames of ${track.name} ${isFrom ? `from ${frame} on` : `up to ${frame}`}`, {
    ...track,
    runs,
    manual,
  });
}
