// Strokes of scribbles, and whether what they select is carried through the shot.
import type { Layer, ProjectDocument, ScribbleLayer, Stroke } from '@mellow/contract';
import { counting, strokeFrom, strokeOn } from '@mellow/core';
import type { Change } from '../editing/change.ts';
import { newScribble } from './layers.ts';
import type { Place } from './place.ts';
import type { Draft } from '../view/draftSlice.ts';
import { layersIn, putLayer, setLayers, sightingDraft } from './stack.ts';

/** A stroke as it is drawn on a frame: what it lay on elsewhere counts no more. */
export function drawnOn({ looks: _looks, ...stroke }: Stroke, frame: number): Stroke {
  return { ...stroke, frame };
}
/** Is it stored what a stroke lies on, so that it counts only where it still does? */
export const hasLooks = ({ sign }: Stroke): boolean => sign === 'in' || sign === 'out';

/** A stroke that was drawn, and the id of the scribble that it makes where there is none to take it. */
export interface Drawn {
  stroke: Stroke;
  newId: string;
}
/** Layers with a stroke as drawn on this frame in the scribble in hand, or in the last there is, or in a new one. */
function withDrawn(layers: readonly Layer[], place: Place, { stroke: drawn, newId }: Drawn) {
  const here = { ...drawn, frame: place.frame };
  const free = layers.filter((l): l is ScribbleLayer => l.kind === 'scribble' && !l.locked);
  const target = free.find((l) => l.id === place.layerId) ?? free.at(-1);
  if (!target) {
    const made = { ...newScribble(layers, here), id: newId };
    return { layers: [...layers, made], layerId: newId, label: `Scribble ${drawn.sign} on a new layer` };
  }
  const stroke = target.carried ? here : strokeFrom(here, target.follow, place.frame, place.motions);
  const next = { ...target, strokes: [...target.strokes, stroke] };
  return {
    layers: layers.map((l) => (l.id === target.id ? next : l)),
    layerId: target.id,
    label: `Scribble ${drawn.sign} on ${target.name}`,
  };
}
export function drawStroke(document: ProjectDocument, place: Place, drawn: Drawn): { change: Change; layerId: string } {
  const { layers, layerId, label } = withDrawn(layersIn(document, place), place, drawn);
  return { change: setLayers(document, place, label, layers), layerId };
}
/** Strokes that were drawn and are not yet edits, in their order, as a draft. */
export function drawnDraft(document: ProjectDocument, place: Place, drawn: readonly Drawn[]): Draft | undefined {
  const layers = drawn.reduce<Layer[]>((all, each) => withDrawn(all, place, each).layers, layersIn(document, place));
  return sightingDraft(document, place, { layers });
}

/** A stroke as it lies on a frame, and its place among those of its scribble. */
export interface StrokeHere {
  at: number;
  stroke: Stroke;
  /** The parts of it that lie on what it was drawn on, where not all of it does: the rest says nothing here. */
  holds?: readonly Stroke['points'][];
}
/** Strokes as they are to count on a frame, where it is to be asked which parts of them hold; undefined: all do. */
export function askedToHold(here: readonly StrokeHere[], frame: number): Stroke[] | undefined {
  const strokes = here.map(({ stroke }) => counting(stroke, frame));
  return strokes.some(({ looks }) => looks?.length) ? strokes : undefined;
}
/** With what was answered of those that were asked about, as far as they lie where they lay then. */
export const withHolding = (
  here: readonly StrokeHere[],
  asked: readonly Stroke[],
  parts: readonly (readonly Stroke['points'][] | null)[],
): readonly StrokeHere[] =>
  here.map((each, k) => (parts[k] && isAlike(each.stroke, asked[k]!) ? { ...each, holds: parts[k] } : each));
const isAlike = (a: Stroke, b: Stroke) => JSON.stringify([a.sign, a.points]) === JSON.stringify([b.sign, b.points]);
/** The strokes of a scribble as they lie on this frame: of one that is carried, only those drawn on it. */
export function strokesHere(
  { strokes, follow, carried }: Pick<ScribbleLayer, 'strokes' | 'follow' | 'carried'>,
  place: Pick<Place, 'frame' | 'motions'>,
): StrokeHere[] {
  const all = strokes.map((stroke, at) => ({ at, stroke }));
  if (carried) return all.filter(({ stroke }) => stroke.frame === place.frame);
  return all.map(({ at, stroke }) => ({ at, stroke: strokeOn(stroke, follow, place.frame, place.motions) }));
}

/** The stack with a stroke as it now lies on this frame, or without it. The same where that is not there. */
export function withStroke(
  document: ProjectDocument,
  place: Place,
  layerId: string,
  at: number,
  here: Stroke | undefined,
): Layer[] {
  return layersIn(document, place).map((layer) => {
    if (layer.id !== layerId || layer.kind !== 'scribble' || layer.locked || !layer.strokes[at]) return layer;
    const stored = here && (layer.carried ? here : strokeFrom(here, layer.follow, place.frame, place.motions));
    return { ...layer, strokes: layer.strokes.flatMap((s, k) => (k === at ? (stored ?? []) : [s])) };
  });
}
/** `what`: as in “Move a stroke”. */
export function changeStroke(
  document: ProjectDocument,
  place: Place,
  layerId: string,
  at: number,
  here: Stroke | undefined,
  what: string,
): Change {
  const name = layersIn(document, place).find((l) => l.id === layerId)?.name ?? '';
  return setLayers(document, place, `${what} of ${name}`, withStroke(document, place, layerId, at, here));
}

/** Has a stroke ride on a track, on none (null), or on what its scribble does; where it lies on this frame it stays. */
export function strokeFollows(stroke: Stroke, follow: Stroke['follow']): Stroke {
  const { follow: _before, ...rest } = stroke;
  return follow === undefined ? rest : { ...rest, follow };
}

/** How far a click takes in at first, and the least and most, OKLab differences passed on the way. */
export const REACH = { first: 0.1, least: 0.005, most: 1.5 };
/** A stroke that grows, further or less far by a factor; of the last there is. Undefined without one. */
export function grown(strokes: readonly StrokeHere[], factor: number): StrokeHere | undefined {
  const last = strokes.filter(({ stroke }) => stroke.reach !== undefined).at(-1);
  if (!last) return undefined;
  const reach = Math.min(Math.max(last.stroke.reach! * factor, REACH.least), REACH.most);
  return { ...last, stroke: { ...last.stroke, reach } };
}

/**
 * Makes a scribble one that is carried: each stroke stays on the frame it was drawn on, where it lies there; one of
 * which that is not known is of the frame in hand.
 */
export function carryScribble(document: ProjectDocument, place: Place, layer: ScribbleLayer): Change {
  const { follow, ...rest } = layer;
  const strokes = layer.strokes.map((stroke) => {
    const frame = stroke.frame ?? place.frame;
    const { follow: _own, ...there } = strokeOn(stroke, follow, frame, place.motions);
    return { ...there, frame };
  });
  return putLayer(document, place, `Carry ${layer.name} through the shot`, { ...rest, strokes, carried: [] });
}

/** Makes a carried scribble one whose strokes are taken for all frames alike, each cut by itself. */
export function cutScribbleAnew(document: ProjectDocument, place: Place, layer: ScribbleLayer): Change {
  const { carried: _carried, ...rest } = layer;
  return putLayer(document, place, `Cut ${layer.name} anew on each frame`, rest);
}
