import { useMemo } from 'react';
import type {
  Animated,
  CleanUp,
  KeyLayer,
  Layer,
  Pick,
  ScribbleLayer,
  Sighting,
  SightingId,
  Spill,
  Stroke,
} from '@mellow/contract';
import {
  foldNumbers,
  followedPoint,
  keyFromPicks,
  keyWithPick,
  numbersAt,
  pathEdited,
  shownLayerAt,
  strokeBack,
  strokePlace,
  type Keying,
} from '@mellow/core';
import { documentOf, edit } from '../../app/editing.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { frameRefOf, type InHand } from '../../app/useProject.ts';
import { placeChanged, sightingDragged } from '../../app/viewSlice.ts';
import { frameClient } from '../../engine/frameClient.ts';
import { isKey, newKey, newScribble } from './layers.ts';

type Rect = Record<'x0' | 'y0' | 'x1' | 'y1', number>;
const NO_LAYERS: Layer[] = [];

/** The matte stack in hand, and all that can be done to it. Every action is one named step of the history. */
export function useStack(inHand: InHand) {
  const { document, shot, media, piece, sighting } = inHand;
  const dispatch = useAppDispatch();
  const { layerId, frame, autoKey, everywhere, ease } = useAppSelector((s) => s.view.place);
  const projectId = document.project.value.id;
  const keying: Keying = { frame, auto: autoKey, everywhere, ease };
  /** Layers as their controls show them on this frame. */
  const layers = useMemo(
    () => sighting?.layers.map((l) => shownLayerAt(l as never, frame) as Layer) ?? NO_LAYERS,
    [sighting?.layers, frame],
  );
  const shown = useMemo(() => sighting && numbersAt(sighting, sighting.animated, frame), [sighting, frame]);
  const layer = layers.find((l) => l.id === layerId) ?? layers[0];

  /** The sighting as it stands in the store: what an action that waited for something must build on. */
  const sightingNow = () =>
    documentOf(projectId)?.sightings.find((s) => s.value.pieceId === piece?.id && s.value.shotId === shot?.id)?.value;
  /** Saves a change of the sighting; makes it when this is the first layer of the piece in the shot. */
  const saveSighting = (label: string, changed: Partial<Editable>, sighting = sightingNow()) => {
    if (!shot || !piece) return;
    const id = sighting?.id ?? (crypto.randomUUID() as SightingId);
    const value: Sighting = {
      id,
      projectId,
      pieceId: piece.id,
      shotId: shot.id,
      layers: sighting?.layers ?? [],
      cleanUp: sighting?.cleanUp ?? null,
      spill: sighting?.spill ?? null,
      animated: sighting?.animated ?? {},
      steadyFrames: sighting?.steadyFrames ?? 0,
      ...changed,
    };
    edit(projectId, label, [{ kind: 'sighting', id, value }]);
  };
  const dragSighting = (changed: Partial<Pick4>) =>
    sighting && dispatch(sightingDragged({ sightingId: sighting.id, ...changed }));
  /** Clean-up or spill changed by its controls: where it has keyframes, there. */
  const folded = (changed: { cleanUp?: CleanUp; spill?: Spill }): Partial<Pick4> => {
    const stored = documentOf(projectId)?.sightings.find((s) => s.value.id === sighting?.id)?.value;
    if (!stored) return changed;
    const now = numbersAt(stored, stored.animated, frame);
    const before = { cleanUp: now.cleanUp, spill: now.spill, animated: stored.animated };
    const next = foldNumbers(before, before, { ...before, ...changed } as typeof before, keying, ['spill.within']);
    return {
      ...(changed.cleanUp && { cleanUp: next.cleanUp! }),
      ...(changed.spill && { spill: next.spill! }),
      animated: next.animated ?? {},
    };
  };
  const saveWhole = (label: string, changed: { cleanUp?: CleanUp; spill?: Spill }) =>
    saveSighting(label, folded(changed));
  const dragWhole = (changed: { cleanUp?: CleanUp; spill?: Spill }) => dragSighting(folded(changed));
  const save = (label: string, next: Layer[]) => saveSighting(label, { layers: next });
  const storedLayers = () => sightingNow()?.layers ?? [];
  const replaced = (changed: Layer) =>
    storedLayers().map((l) => (l.id === changed.id ? foldedLayer(l, changed, keying) : l));
  const saveLayer = (label: string, next: Layer) => save(label, replaced(next));
  /** Puts a layer in as it is given, keyframes and all. */
  const putLayer = (label: string, next: Layer) =>
    save(
      label,
      storedLayers().map((l) => (l.id === next.id ? next : l)),
    );
  const storedLayer = (id: string) => sighting?.layers.find((l) => l.id === id);
  const dragLayer = (next: Layer) => dragSighting({ layers: replaced(next) });
  const add = (added: Layer, label: string) => {
    save(label, [...storedLayers(), added]);
    dispatch(placeChanged({ layerId: added.id }));
  };

  const sampleAt = async (reads: KeyLayer['reads'], at: number, rect: Rect) =>
    (
      await frameClient().askLead({
        kind: 'sample',
        frame: frameRefOf(document, shot!, media!, at),
        reads: reads ?? 'balanced',
        ...rect,
      })
    ).samples;
  // kind and key of a layer go together; the compiler cannot see that through the union
  const withKey = (target: KeyLayer, key: unknown, picks: Pick[]) => ({ ...target, key, picks }) as KeyLayer;

  /** Takes colours into the key in hand, or into a new one. Numbers set by hand stay: only the new pick is solved on top of them. */
  const pick = async (sign: Pick['sign'], rect: Rect) => {
    if (!shot || !media || !piece) return;
    const samples = await sampleAt(isKey(layer) ? layer.reads : undefined, frame, rect);
    // other picks may have come in meanwhile
    const layersNow = sightingNow()?.layers ?? [];
    const free = layersNow.filter((l): l is KeyLayer => isKey(l) && !l.locked);
    const onKey = free.find((l) => l.id === layer?.id) ?? free[0];
    const target = onKey ?? newKey(layersNow);
    if (sign === 'remove' && !target.key) return;
    const made: Pick = { sign, frame, ...rect, samples };
    const next = withKey(target, keyWithPick(target.kind, target.key, made, target.picks, shot.encoding), [
      ...target.picks,
      made,
    ]);
    save(
      sign === 'add' ? `Pick a colour for ${next.name}` : `Remove a colour from ${next.name}`,
      onKey ? layersNow.map((l) => (l.id === next.id ? next : l)) : [...layersNow, next],
    );
    dispatch(placeChanged({ layerId: next.id }));
  };
  /** Adds a stroke as drawn on this frame to the scribble in hand, or to the last there is, or to a new one. */
  const scribble = (drawn: Stroke) => {
    const layersNow = sightingNow()?.layers ?? [];
    const free = layersNow.filter((l): l is ScribbleLayer => l.kind === 'scribble' && !l.locked);
    const target = free.find((l) => l.id === layer?.id) ?? free.at(-1);
    if (!target) return add(newScribble(layersNow, drawn), `Scribble ${drawn.sign} on a new layer`);
    const stroke = strokeBack(drawn, strokePlace(target.follow, frame, inHand.motions)) as Stroke;
    save(
      `Scribble ${drawn.sign} on ${target.name}`,
      layersNow.map((l) => (l.id === target.id ? { ...target, strokes: [...target.strokes, stroke] } : l)),
    );
    dispatch(placeChanged({ layerId: target.id }));
  };
  const solve = (target: KeyLayer, picks: Pick[], label: string) =>
    saveLayer(label, withKey(target, keyFromPicks(target.kind, target.key, picks, shot!.encoding), picks));
  /** A pick's dot moved elsewhere on the picture: its colours are taken anew and the key is solved again from all picks. */
  const movePick = async (target: KeyLayer, index: number, to: { x: number; y: number }) => {
    const old = target.picks[index]!;
    const [dx, dy] = [to.x - (old.x0 + old.x1) / 2, to.y - (old.y0 + old.y1) / 2];
    const rect = { x0: old.x0 + dx, y0: old.y0 + dy, x1: old.x1 + dx, y1: old.y1 + dy };
    const moved: Pick = { ...old, ...rect, frame, samples: await sampleAt(target.reads, frame, rect) };
    solve(
      target,
      target.picks.map((p, i) => (i === index ? moved : p)),
      `Move a pick of ${target.name}`,
    );
  };
  /** The same picks read before or after the balance: their colours are taken anew from their own frames. */
  const setReads = async (target: KeyLayer, reads: NonNullable<KeyLayer['reads']>) => {
    const picks = await Promise.all(
      target.picks.map(async ({ frame: at, x0, y0, x1, y1, ...p }) => ({
        ...p,
        frame: at,
        x0,
        y0,
        x1,
        y1,
        samples: await sampleAt(reads, at, { x0, y0, x1, y1 }),
      })),
    );
    solve(
      { ...target, reads },
      picks,
      `${target.name} reads the picture ${reads === 'balanced' ? 'after' : 'before'} balance`,
    );
  };
  /** Where a pick lies on this frame: on the track it follows, or where it was made. */
  const pickPlace = (key: KeyLayer, p: Pick): Pick => {
    if (!key.follow || !inHand.motions.has(key.follow.trackId) || p.frame === frame) return p;
    const [x, y] = followedPoint(key.follow, p.frame, frame, inHand.motions, (p.x0 + p.x1) / 2, (p.y0 + p.y1) / 2);
    const [hw, hh] = [(p.x1 - p.x0) / 2, (p.y1 - p.y0) / 2];
    return { ...p, frame, x0: x - hw, y0: y - hh, x1: x + hw, y1: y + hh };
  };
  /** All picks of a key that follows a track, taken anew where they lie on this frame. */
  const takeAnew = async (key: KeyLayer) => {
    const picks = await Promise.all(
      key.picks.map(async (p) => {
        const at = pickPlace(key, p);
        return { ...at, samples: await sampleAt(key.reads, frame, at) };
      }),
    );
    solve(key, picks, `Take the picks of ${key.name} anew on frame ${frame}`);
  };
  return {
    scribble,
    layers,
    layer,
    shown,
    frame,
    keying,
    storedLayer,
    putLayer,
    saveWhole,
    dragWhole,
    pickPlace,
    takeAnew,
    save,
    saveLayer,
    dragLayer,
    add,
    saveSighting,
    dragSighting,
    pick,
    movePick,
    solve,
    setReads,
  };
}
type Pick4 = { layers: Layer[]; cleanUp: CleanUp; spill: Spill; animated: Animated };
/** An edit of a layer as shown on a frame, folded into what is stored. */
function foldedLayer(stored: Layer, edited: Layer, keying: Keying): Layer {
  const shown = shownLayerAt(stored as never, keying.frame) as Layer;
  const numbers = foldNumbers(stored as never, shown as never, edited as never, keying, UNKEYED) as Layer;
  if (stored.kind !== 'shape' || shown.kind !== 'shape' || edited.kind !== 'shape' || numbers.kind !== 'shape')
    return numbers;
  const moved = JSON.stringify(shown.geometry) !== JSON.stringify(edited.geometry);
  return {
    ...numbers,
    ...(moved
      ? (pathEdited({ geometry: stored.geometry, paths: edited.paths }, edited.geometry, keying) as Partial<
          typeof numbers
        >)
      : { geometry: stored.geometry }),
  };
}
/** Numbers that have no keyframes of their own: the path has its keyframes as a whole. */
const UNKEYED = [
  'geometry',
  'paths',
  'placement.pivotX',
  'placement.pivotY',
  'span',
  'follow',
  'picks',
  'strokes',
  'layers',
];
type Editable = Omit<Sighting, 'id' | 'projectId' | 'pieceId' | 'shotId'>;
export type Stack = ReturnType<typeof useStack>;
