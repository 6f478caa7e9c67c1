// Colours taken from the picture into keys.
import type { KeyLayer, Layer, PickedRegion, ProjectDocument } from '@mellow/contract';
import { followedPoint, keyFromPicks, keyWithPick } from '@mellow/core';
import type { Change } from '../editing/change.ts';
import { isKey, newKey } from './layers.ts';
import { shotIn, type Place } from './place.ts';
import { editLayer, layersIn, setLayers } from './stack.ts';

export type Rect = Record<'x0' | 'y0' | 'x1' | 'y1', number>;

// kind and key of a layer go together; the compiler cannot see that through the union
const withKey = (target: KeyLayer, key: unknown, picks: PickedRegion[]) => ({ ...target, key, picks }) as KeyLayer;

/** The key a pick goes to: the one in hand, else the first that is not locked, else none. */
export function keyForPick(layers: readonly Layer[], layerId: string | null): KeyLayer | undefined {
  const free = layers.filter((l): l is KeyLayer => isKey(l) && !l.locked);
  return free.find((l) => l.id === layerId) ?? free[0];
}

/**
 * Takes a pick into the key in hand, or into a new one. Numbers set by hand stay: only the new pick is solved on top
 * of them. Undefined where there is nothing to take colours out of.
 */
export function takePick(
  document: ProjectDocument,
  place: Place,
  pick: PickedRegion,
): { change: Change; layerId: string } | undefined {
  const shot = shotIn(document, place);
  const layers = layersIn(document, place);
  const known = keyForPick(layers, place.layerId);
  const target = known ?? newKey(layers);
  if (!shot || (pick.sign === 'remove' && !target.key)) return undefined;
  const key = keyWithPick(target.kind, target.key, pick, target.picks, shot.encoding);
  const next = withKey(target, key, [...target.picks, pick]);
  const label = pick.sign === 'add' ? `Pick a colour for ${next.name}` : `Remove a colour from ${next.name}`;
  const stack = known ? layers.map((l) => (l.id === next.id ? next : l)) : [...layers, next];
  return { change: setLayers(document, place, label, stack), layerId: next.id };
}

/** Solves a key anew from all the picks given. */
export function solveKey(
  document: ProjectDocument,
  place: Place,
  label: string,
  target: KeyLayer,
  picks: PickedRegion[],
): Change {
  const { encoding } = shotIn(document, place)!;
  return editLayer(
    document,
    place,
    label,
    withKey(target, keyFromPicks(target.kind, target.key, picks, encoding), picks),
  );
}

/** A pick's rectangle with its centre moved to a place on the picture. */
export function rectMovedTo(old: Rect, to: { x: number; y: number }): Rect {
  const [dx, dy] = [to.x - (old.x0 + old.x1) / 2, to.y - (old.y0 + old.y1) / 2];
  return { x0: old.x0 + dx, y0: old.y0 + dy, x1: old.x1 + dx, y1: old.y1 + dy };
}

/** Where a pick lies on the frame in hand: on the track its key follows, or where it was made. */
export function pickOnFrame(key: KeyLayer, pick: PickedRegion, { frame, motions }: Place): PickedRegion {
  if (!key.follow || !motions.has(key.follow.trackId) || pick.frame === frame) return pick;
  const middle = [(pick.x0 + pick.x1) / 2, (pick.y0 + pick.y1) / 2] as const;
  const [x, y] = followedPoint(key.follow, pick.frame, frame, motions, ...middle);
  return { ...pick, frame, ...rectMovedTo(pick, { x, y }) };
}
