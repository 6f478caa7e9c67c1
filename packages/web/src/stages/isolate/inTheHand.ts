// Shapes as the hand holds them on the picture, and what becomes of them when it moves.
import type { Feather, Geometry, Layer, ShapeLayer, Spill, Track } from '@mellow/contract';
import { carriedBack, carriedThere, placeOf } from '@mellow/core';
import { changeWhole, editLayer, foldedWhole, sightingDraft, withEditedLayer } from '../../commands/stack.ts';
import { putTrack, regionMoved } from '../../commands/tracks.ts';
import { followHand, type Moved } from '../../editing/drag.ts';
import type { Shape, ShapeEvent } from '../../viewer/tools/tool.ts';
import type { Stack } from './useStack.ts';
import type { Tracks } from './useTracks.ts';

export interface InTheHand {
  /** Names what the shape is of. */
  of: string;
  shape: Shape;
  changed: ShapeEvent;
}

/** What the hand has made of a carried shape, in the shape's own frame: untouched where only the feather was moved. */
interface Carried {
  geometry: Geometry;
  feather: Feather;
}
function held<T>(
  of: string,
  own: Carried,
  place: Parameters<typeof carriedThere>[1],
  projectId: string,
  moved: Moved<T>,
  valueOf: (next: Carried) => T,
): InTheHand {
  const shown = carriedThere(own.geometry, place, true);
  return {
    of,
    shape: { geometry: shown, feather: own.feather },
    changed(next, phase, what) {
      const geometry = next.geometry === shown ? own.geometry : carriedBack(next.geometry, place);
      followHand(projectId, moved, valueOf({ geometry: geometry, feather: next.feather }), phase, what);
    },
  };
}

/** The shape layer in hand where it lies on this frame: placed, and on the track it follows. */
function layerInHand({ layer, place }: Stack, projectId: string): InTheHand | undefined {
  if (layer?.kind !== 'shape' || layer.locked) return undefined;
  const moved: Moved<Layer> = {
    draft: (document, next) => sightingDraft(document, place, { layers: withEditedLayer(document, place, next) }),
    change: (document, next, what) => editLayer(document, place, `${what} of ${layer.name}`, next),
  };
  const lies = placeOf(layer, place.frame, place.motions);
  return held(layer.id, layer, lies, projectId, moved, (next): ShapeLayer => ({ ...layer, ...next }));
}

/** Where spill is looked for, as it lies on this frame. */
function spillInHand({ shown, place }: Stack, projectId: string): InTheHand | undefined {
  const spill = shown?.spill;
  const within = spill?.within;
  if (!within || spill.mode === 'off') return undefined;
  const moved: Moved<{ spill: Spill }> = {
    draft: (document, next) => sightingDraft(document, place, foldedWhole(document, place, next)),
    change: (document, next, what) => changeWhole(document, place, `${what} of where spill is looked for`, next),
  };
  const lies = placeOf({ follow: within.follow }, place.frame, place.motions);
  return held('spill', within, lies, projectId, moved, (next) => ({
    spill: { ...spill, within: { ...within, ...next } },
  }));
}

/** The region of the track in hand where it lies on this frame. */
function regionInHand({ track, motion, regionNow, frame }: Tracks): InTheHand | undefined {
  if (!track || !motion || !regionNow) return undefined;
  const next = (geometry: Geometry): Track | undefined => regionMoved(track, motion, frame, geometry);
  const moved: Moved<Geometry> = {
    draft(_document, geometry) {
      const there = next(geometry);
      return there && { track: there };
    },
    change(_document, geometry, what) {
      const there = next(geometry);
      return there && putTrack(`${what} of ${track.name}`, there);
    },
  };
  return {
    of: track.id,
    shape: { geometry: regionNow, feather: { innerPx: 0, outerPx: 0, falloff: 'linear' } },
    changed: ({ geometry }, phase, what) => followHand(track.projectId, moved, geometry, phase, what),
  };
}

/** What of all this the hand can take hold of, by the section that is open. */
export function inTheHand(section: string, stack: Stack, tracks: Tracks, projectId: string): InTheHand | undefined {
  if (section === 'Track') return regionInHand(tracks);
  const spill = section === 'Spill' ? spillInHand(stack, projectId) : undefined;
  return spill ?? layerInHand(stack, projectId);
}
