import type { ProjectDocument, ScribbleLayer, Stroke } from '@mellow/contract';
import { strokeBack, strokePlace } from '@mellow/core';
import type { Change } from '../editing/change.ts';
import { newScribble } from './layers.ts';
import type { Place } from './place.ts';
import { addLayer, layersIn, setLayers } from './stack.ts';

/** Adds a stroke as drawn on this frame to the scribble in hand, or to the last there is, or to a new one. */
export function drawStroke(
  document: ProjectDocument,
  place: Place,
  drawn: Stroke,
): { change: Change; layerId: string } {
  const layers = layersIn(document, place);
  const free = layers.filter((l): l is ScribbleLayer => l.kind === 'scribble' && !l.locked);
  const target = free.find((l) => l.id === place.layerId) ?? free.at(-1);
  if (!target) {
    const made = newScribble(layers, drawn);
    return { change: addLayer(document, place, `Scribble ${drawn.sign} on a new layer`, made), layerId: made.id };
  }
  const stroke = strokeBack(drawn, strokePlace(target.follow, place.frame, place.motions));
  const next = { ...target, strokes: [...target.strokes, stroke] };
  const stack = layers.map((l) => (l.id === target.id ? next : l));
  return { change: setLayers(document, place, `Scribble ${drawn.sign} on ${target.name}`, stack), layerId: target.id };
}
