// Outlines over the picture that are not in hand.
import { carriedThere, geometryAt, isAnimated, ownGeometryAt, pathOf, placeOf } from '@mellow/core';
import { regionOn } from '../../commands/tracks.ts';
import type { Outline } from '../../viewer/overlays.ts';
import type { Stack } from './useStack.ts';
import type { Tracks } from './useTracks.ts';

/** Hold-outs of the track in hand, and the layer that may follow it, seen while one tracks. */
export function outlinesWhileTracking({ track, frame }: Tracks, { layer, place }: Stack): Outline[] {
  const holdOuts = track?.holdOuts.filter((h) => h.on) ?? [];
  const outlines: Outline[] = holdOuts.map((h) => ({
    points: pathOf(h.paths ? geometryAt(h.paths, frame) : h.geometry),
    look: 'dashed',
  }));
  if (layer?.kind !== 'shape') return outlines;
  const there = carriedThere(layer.geometry, placeOf(layer, frame, place.motions));
  return [...outlines, { points: pathOf(there), look: 'faint' }];
}

/** Where the shape in hand, or the region of the track, lies on any frame. */
export function outlinesOn(frame: number, isTracking: boolean, { track, motion }: Tracks, stack: Stack): Outline[] {
  if (isTracking) return track && motion ? [{ points: pathOf(regionOn(track, motion, frame)), look: 'plain' }] : [];
  const { layer, storedLayer, place } = stack;
  const stored = layer && storedLayer(layer.id);
  if (stored?.kind !== 'shape') return [];
  const there = carriedThere(ownGeometryAt(stored, frame), placeOf(stored, frame, place.motions));
  return [{ points: pathOf(there), look: 'plain' }];
}

/** The shape in hand on the frames before and after, where it moves. */
export function outlinesAround({ layer, storedLayer, place }: Stack, frames: number): Outline[] {
  const stored = layer && storedLayer(layer.id);
  if (stored?.kind !== 'shape' || !isAnimated(stored)) return [];
  const { frame, motions } = place;
  const near = [frame - 1, frame + 1].filter((f) => f >= 0 && f < frames);
  return near.map((f) => ({
    points: pathOf(carriedThere(ownGeometryAt(stored, f), placeOf(stored, f, motions))),
    look: 'faint',
  }));
}
