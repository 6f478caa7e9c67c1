import type { CleanUp, KeyLayer, Layer, Pick, Sighting, SightingId, Spill } from '@mellow/contract';
import { keyFromPicks, keyWithPick } from '@mellow/core';
import { documentOf, edit } from '../../app/editing.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { frameRefOf, type InHand } from '../../app/useProject.ts';
import { placeChanged, sightingDragged } from '../../app/viewSlice.ts';
import { frameClient } from '../../engine/frameClient.ts';
import { isKey, newKey } from './layers.ts';

type Rect = Record<'x0' | 'y0' | 'x1' | 'y1', number>;
const NO_LAYERS: Layer[] = [];

/** The matte stack in hand, and all that can be done to it. Every action is one named step of the history. */
export function useStack(inHand: InHand) {
  const { document, shot, media, piece, sighting } = inHand;
  const dispatch = useAppDispatch();
  const { layerId, frame } = useAppSelector((s) => s.view.place);
  const projectId = document.project.value.id;
  const layers = sighting?.layers ?? NO_LAYERS;
  const layer = layers.find((l) => l.id === layerId) ?? layers[0];

  /** The sighting as it stands in the store: what an action that waited for something must build on. */
  const sightingNow = () => documentOf(projectId)?.sightings.find((s) => s.value.pieceId === piece?.id && s.value.shotId === shot?.id)?.value;
  /** Saves a change of the sighting; makes it when this is the first layer of the piece in the shot. */
  const saveSighting = (label: string, changed: Partial<Editable>, sighting = sightingNow()) => {
    if (!shot || !piece) return;
    const id = sighting?.id ?? (crypto.randomUUID() as SightingId);
    const value: Sighting = { id, projectId, pieceId: piece.id, shotId: shot.id, layers: sighting?.layers ?? [], cleanUp: sighting?.cleanUp ?? null, spill: sighting?.spill ?? null, ...changed };
    edit(projectId, label, [{ kind: 'sighting', id, value }]);
  };
  const dragSighting = (changed: { layers?: Layer[]; cleanUp?: CleanUp; spill?: Spill }) => sighting && dispatch(sightingDragged({ sightingId: sighting.id, ...changed }));
  const save = (label: string, next: Layer[]) => saveSighting(label, { layers: next });
  const replaced = (changed: Layer) => layers.map((l) => (l.id === changed.id ? changed : l));
  const saveLayer = (label: string, next: Layer) => save(label, replaced(next));
  const dragLayer = (next: Layer) => dragSighting({ layers: replaced(next) });
  const add = (added: Layer, label: string) => {
    save(label, [...layers, added]);
    dispatch(placeChanged({ layerId: added.id }));
  };

  const sampleAt = async (reads: KeyLayer['reads'], at: number, rect: Rect) =>
    (await frameClient().askLead({ kind: 'sample', frame: frameRefOf(document, shot!, media!, at), reads: reads ?? 'balanced', ...rect })).samples;
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
    const next = withKey(target, keyWithPick(target.kind, target.key, made, target.picks, shot.encoding), [...target.picks, made]);
    save(sign === 'add' ? `Pick a colour for ${next.name}` : `Remove a colour from ${next.name}`, onKey ? layersNow.map((l) => (l.id === next.id ? next : l)) : [...layersNow, next]);
    dispatch(placeChanged({ layerId: next.id }));
  };
  const solve = (target: KeyLayer, picks: Pick[], label: string) => saveLayer(label, withKey(target, keyFromPicks(target.kind, target.key, picks, shot!.encoding), picks));
  /** A pick's dot moved elsewhere on the picture: its colours are taken anew and the key is solved again from all picks. */
  const movePick = async (target: KeyLayer, index: number, to: { x: number; y: number }) => {
    const old = target.picks[index]!;
    const [dx, dy] = [to.x - (old.x0 + old.x1) / 2, to.y - (old.y0 + old.y1) / 2];
    const rect = { x0: old.x0 + dx, y0: old.y0 + dy, x1: old.x1 + dx, y1: old.y1 + dy };
    const moved: Pick = { ...old, ...rect, frame, samples: await sampleAt(target.reads, frame, rect) };
    solve(target, target.picks.map((p, i) => (i === index ? moved : p)), `Move a pick of ${target.name}`);
  };
  /** The same picks read before or after the balance: their colours are taken anew from their own frames. */
  const setReads = async (target: KeyLayer, reads: NonNullable<KeyLayer['reads']>) => {
    const picks = await Promise.all(target.picks.map(async ({ frame: at, x0, y0, x1, y1, ...p }) => ({ ...p, frame: at, x0, y0, x1, y1, samples: await sampleAt(reads, at, { x0, y0, x1, y1 }) })));
    solve({ ...target, reads }, picks, `${target.name} reads the picture ${reads === 'balanced' ? 'after' : 'before'} balance`);
  };
  return { layers, layer, frame, save, saveLayer, dragLayer, add, saveSighting, dragSighting, pick, movePick, solve, setReads };
}
type Editable = Omit<Sighting, 'id' | 'projectId' | 'pieceId' | 'shotId'>;
export type Stack = ReturnType<typeof useStack>;
