import { useMemo, useRef } from 'react';
import type { KeyLayer, Layer, PickedRegion, Stroke } from '@mellow/contract';
import { numbersAt, shownLayerAt } from '@mellow/core';
import { store, useAppDispatch, useAppSelector } from '../../app/store.ts';
import { isKey } from '../../commands/layers.ts';
import { paint, type PaintSign, type Passage } from '../../commands/painting.ts';
import { pickOnFrame, rectMovedTo, solveKey, takePick, type Rect } from '../../commands/picks.ts';
import * as commands from '../../commands/stack.ts';
import type { SightingEdit, WholeEdit } from '../../commands/stack.ts';
import { drawnDraft, drawnOn, drawStroke, hasLooks, type Drawn } from '../../commands/strokes.ts';
import { documentOf, edit, underWay } from '../../editing/editing.ts';
import type { Change } from '../../editing/change.ts';
import { frameClient } from '../../engine/frameClient.ts';
import { frameRefOf } from '../../inhand/frameScene.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { usePlace } from '../../inhand/useInHand.ts';
import { useNewest } from '../../ui/useNewest.ts';
import { dragged } from '../../view/draftSlice.ts';
import { moved } from '../../view/whereSlice.ts';

const NO_LAYERS: Layer[] = [];

/** The matte stack in hand as its controls show it, and the commands on it bound to where they act. */
export function useStack(inHand: InHand) {
  const { document, shot, media, sighting } = inHand;
  const place = usePlace(inHand);
  const { frame, keyframing } = place;
  const dispatch = useAppDispatch();
  const layerId = useAppSelector((s) => s.where.layerId);
  const projectId = document.project.value.id;
  /** Layers as their controls show them on this frame. */
  const layers = useMemo(
    () => sighting?.layers.map((l) => shownLayerAt(l, frame)) ?? NO_LAYERS,
    [sighting?.layers, frame],
  );
  const shown = useMemo(() => sighting && numbersAt(sighting, sighting.animated, frame), [sighting, frame]);
  const layer = layers.find((l) => l.id === layerId) ?? layers[0];
  /** The frame in hand, as the workers know it. */
  const ref = useMemo(
    () => (shot && media ? frameRefOf(document, shot, media, frame) : undefined),
    [document, shot, media, frame],
  );
  const inHandId = layer?.id ?? null;
  const here = useMemo(() => ({ ...place, layerId: inHandId }), [place, inHandId]);

  // what waited for something builds on the document as it is by then, not on what was drawn from before
  const now = () => documentOf(projectId) ?? document;
  const make = (change: Change) => edit(projectId, change);
  const drag = (changed: SightingEdit) => {
    const draft = commands.sightingDraft(now(), here, changed);
    if (draft) dispatch(dragged(draft));
  };
  const choose = (id: string) => dispatch(moved({ layerId: id }));

  const sampleAt = async (reads: KeyLayer['reads'], at: number, { x0, y0, x1, y1 }: Rect) => {
    const ref = frameRefOf(document, shot!, media!, at);
    return (await frameClient().askLead({ kind: 'sample', frame: ref, reads: reads ?? 'balanced', x0, y0, x1, y1 }))
      .samples;
  };
  const pick = async (sign: PickedRegion['sign'], rect: Rect) => {
    if (!shot || !media) return;
    const samples = await sampleAt(isKey(layer) ? layer.reads : undefined, frame, rect);
    const taken = takePick(now(), here, { sign, frame, ...rect, samples });
    if (!taken) return;
    make(taken.change);
    choose(taken.layerId);
  };
  /** A stroke drawn here, with what it lies on; without, where that cannot be had: it counts on every frame then. */
  const looked = async (drawn: Stroke): Promise<Stroke> => {
    const stroke = drawnOn(drawn, frame);
    if (!ref || !hasLooks(stroke)) return stroke;
    const task = { kind: 'looks', frame: ref, stroke } as const;
    const client = frameClient();
    const answered = new AbortController();
    // of whom is free first: the lead may be cutting the stroke before
    const answer = await Promise.any([client.askLead(task), client.ask(task, answered.signal)]).catch(() => undefined);
    answered.abort();
    return { ...stroke, ...answer };
  };
  const drawing = useRef<Drawn[]>([]);
  const showDrawing = () => {
    const draft = drawnDraft(now(), here, drawing.current);
    if (draft) dispatch(dragged(draft));
  };
  const scribble = (stroke: Stroke) => {
    const drawn = { stroke, newId: crypto.randomUUID() };
    drawing.current.push(drawn);
    // it is there at once; what it lies on is known a moment later
    showDrawing();
    underWay.make(looked(stroke), (whole = drawnOn(stroke, frame)) => {
      drawing.current = drawing.current.filter((d) => d !== drawn);
      const { change, layerId: id } = drawStroke(now(), here, { ...drawn, stroke: whole });
      make(change);
      choose(id);
      // the edit has taken the draft's place
      if (drawing.current.length > 0) showDrawing();
    });
  };
  const painted = (sign: PaintSign, points: Passage) => {
    const last = inHand.span?.to ?? frame;
    const { change, layerId: id } = paint(now(), here, store.getState().hand.brush, sign, points, last);
    make(change);
    choose(id);
  };
  const solve = (target: KeyLayer, picks: PickedRegion[], label: string) =>
    make(solveKey(now(), here, label, target, picks));
  /** The given picks with their colours taken anew, each from its own frame. */
  const takenAnew = (picks: readonly PickedRegion[], reads: KeyLayer['reads']) =>
    Promise.all(picks.map(async (p) => ({ ...p, samples: await sampleAt(reads, p.frame, p) })));
  /** Solves a key, as it is by now, from its picks with some of them exchanged. */
  const solveWith = ({ id, reads }: KeyLayer, exchanged: ReadonlyMap<number, PickedRegion>, label: string) => {
    const key = commands.layersIn(now(), here).find((l) => l.id === id);
    if (!isKey(key)) return;
    const picks = key.picks.map((p, i) => exchanged.get(i) ?? p);
    solve({ ...shownLayerAt(key, frame), reads }, picks, label);
  };
  const numbered = (picks: readonly PickedRegion[]) => new Map(picks.entries());
  const movePick = async (target: KeyLayer, index: number, to: { x: number; y: number }) => {
    const pick = target.picks[index]!;
    const [taken] = await takenAnew([{ ...pick, ...rectMovedTo(pick, to), frame }], target.reads);
    solveWith(target, new Map([[index, taken!]]), `Move a pick of ${target.name}`);
  };
  /** The same picks read before or after the balance. */
  const setReads = async (target: KeyLayer, reads: NonNullable<KeyLayer['reads']>) => {
    const when = reads === 'balanced' ? 'after' : 'before';
    const taken = numbered(await takenAnew(target.picks, reads));
    solveWith({ ...target, reads }, taken, `${target.name} reads the picture ${when} balance`);
  };
  /** All picks of a key that follows a track, taken where they lie on this frame. */
  const takeAnew = async (key: KeyLayer) => {
    const picks = key.picks.map((p) => ({ ...pickOnFrame(key, p, here), frame }));
    const taken = numbered(await takenAnew(picks, key.reads));
    solveWith(key, taken, `Take the picks of ${key.name} anew on frame ${frame}`);
  };

  /** Layers as they are stored, keyframes and all: what is moved, grouped and copied. */
  const stored = sighting?.layers ?? NO_LAYERS;
  const does = useNewest({
    save: (label: string, next: Layer[]) => make(commands.setLayers(now(), here, label, next)),
    saveLayer: (label: string, next: Layer) => make(commands.editLayer(now(), here, label, next)),
    /** Changes some of what a layer is, whatever it has become meanwhile. */
    changeLayer: (id: string, label: string, change: Partial<Layer>) => {
      const layer = layers.find((l) => l.id === id);
      if (layer) make(commands.editLayer(now(), here, label, { ...layer, ...change } as Layer));
    },
    removeLayer: (id: string) => {
      const rest = stored.filter((l) => l.id !== id);
      const gone = stored.find((l) => l.id === id);
      if (gone) make(commands.setLayers(now(), here, `Remove ${gone.name}`, rest));
    },
    putLayer: (label: string, next: Layer) => make(commands.putLayer(now(), here, label, next)),
    dragLayer: (next: Layer) => drag({ layers: commands.withEditedLayer(now(), here, next) }),
    add: (added: Layer, label: string) => {
      make(commands.addLayer(now(), here, label, added));
      choose(added.id);
    },
    saveSighting: (label: string, changed: SightingEdit) => make(commands.changeSighting(now(), here, label, changed)),
    saveWhole: (label: string, changed: WholeEdit) => make(commands.changeWhole(now(), here, label, changed)),
    dragWhole: (changed: WholeEdit) => drag(commands.foldedWhole(now(), here, changed)),
    looked,
    scribble,
    painted,
    pick,
    movePick,
    solve,
    setReads,
    takeAnew,
  });
  return useMemo(
    () => ({
      layers,
      stored,
      layer,
      shown,
      frame,
      ref,
      keyframing,
      place: here,
      storedLayer: (id: string) => stored.find((l) => l.id === id),
      pickPlace: (key: KeyLayer, p: PickedRegion) => pickOnFrame(key, p, here),
      ...does,
    }),
    [layers, stored, layer, shown, frame, ref, keyframing, here, does],
  );
}
export type Stack = ReturnType<typeof useStack>;
