// Strokes of scribbles, and whether what they select is carried through the shot.
import type { ProjectDocument, ScribbleLayer, Stroke } from '@mellow/contract';
import { strokeFrom, strokeOn } from '@mellow/core';
import type { Change } from '../editing/change.ts';
import { newScribble } from './layers.ts';
import type { Place } from './place.ts';
import { addLayer, layersIn, putLayer, setLayers } from './stack.ts';

/** Adds a stroke as drawn on this frame to the scribble in hand, or to the last there is, or to a new one. */
export function drawStroke(
  document: ProjectDocument,
  place: Place,
  drawn: Stroke,
): { change: Change; layerId: string } {
  const layers = layersIn(document, place);
  const here = { ...drawn, frame: place.frame };
  const free = layers.filter((l): l is ScribbleLayer => l.kind === 'scribble' && !l.locked);
  const target = free.find((l) => l.id === place.layerId) ?? free.at(-1);
  if (!target) {
    const made = newScribble(layers, here);
    return { change: addLayer(document, place, `Scribble ${drawn.sign} on a new layer`, made), layerId: made.id };
  }
  const stroke = target.carried ? here : strokeFrom(here, target.follow, place.frame, place.motions);
  const next = { ...target, strokes: [...target.strokes, stroke] };
  const stack = layers.map((l) => (l.id === target.id ? next : l));
  return { change: setLayers(document, place, `Scribble ${drawn.sign} on ${target.name}`, stack), layerId: target.id };
}

/** The strokes of a scribble as they lie on this frame: of one that is carried, only those drawn on it. */
export function strokesHere(
  { strokes, follow, carried }: Pick<ScribbleLayer, 'strokes' | 'follow' | 'carried'>,
  place: Pick<Place, 'frame' | 'motions'>,
): Stroke[] {
  if (carried) return strokes.filter((s) => s.frame === place.frame);
  return strokes.map((s) => strokeOn(s, follow, place.frame, place.motions));
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
