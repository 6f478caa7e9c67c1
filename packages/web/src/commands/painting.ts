// What a hand paints becomes strokes of brush layers.
import { within, type BrushLayer, type BrushStroke, type ProjectDocument } from '@mellow/contract';
import { strokeBack, strokePlace } from '@mellow/core';
import type { Change } from '../editing/change.ts';
import { newBrush } from './layers.ts';
import type { Place } from './place.ts';
import { addLayer, layersIn, putLayer } from './stack.ts';

/** The frames that a stroke is painted on. */
export type PaintedOn = 'all frames' | 'this frame' | 'from here on' | 'a run';
/** A brush as it is set; `run`: the frames of a run, both included. */
export interface Brush {
  widthPx: number;
  softness: number;
  flow: number;
  on: PaintedOn;
  run: { from: number; to: number };
}
/** What the hand does with it, as one sees it: more of the piece selected, less of it, or the edge smoother. */
export type PaintSign = BrushStroke['sign'];
/** What a passage came to: where, and how hard it was pressed. */
export type Passage = BrushStroke['points'];

function spanOf({ on, run }: Brush, frame: number, last: number): BrushStroke['span'] {
  if (on === 'all frames') return undefined;
  if (on === 'a run') return { from: Math.min(run.from, run.to), to: Math.max(run.from, run.to) };
  return { from: frame, to: on === 'this frame' ? frame : Math.max(frame, last) };
}

const rounded = (v: number, digits: number): number => Number(v.toFixed(digits));
/** A stroke as finely as it matters: every step of the history holds all strokes of its layer. */
const stored = (stroke: BrushStroke): BrushStroke => ({
  ...stroke,
  points: stroke.points.map(([x, y, pressure]) => [rounded(x, 2), rounded(y, 2), rounded(pressure, 3)]),
});

/** The frame nearest to one in hand that a stroke is there on: where it is carried from and to. */
export const frameOfStroke = ({ span }: Pick<BrushStroke, 'span'>, frame: number): number =>
  span ? within(span, frame) : frame;

/**
 * Paints a passage: on the brush layer in hand, else on the last that adds, else on a new one at the stack's end, which
 * paints over all that lies above it. In a layer that takes away, less selected is more of the layer. `last`: the
 * shot's last frame.
 */
export function paint(
  document: ProjectDocument,
  place: Place,
  brush: Brush,
  sign: PaintSign,
  points: Passage,
  last: number,
): { change: Change; layerId: string } {
  const { widthPx, softness, flow } = brush;
  const layers = layersIn(document, place);
  const free = layers.filter((l): l is BrushLayer => l.kind === 'brush' && !l.locked);
  const target = free.find((l) => l.id === place.layerId) ?? free.findLast((l) => l.mode === 'add');
  const flipped = { in: 'out', out: 'in', smooth: 'smooth' } as const;
  const span = spanOf(brush, place.frame, last);
  const own = target?.mode === 'without' ? flipped[sign] : sign;
  const drawn = { sign: own, widthPx, softness, flow, points, ...(span && { span }) };
  const does = { in: 'Paint in', out: 'Paint out', smooth: 'Paint smooth' }[sign];
  if (!target) {
    const made = newBrush(layers, stored(drawn));
    return { change: addLayer(document, place, `${does} on a new layer`, made), layerId: made.id };
  }
  const stroke = stored(strokeBack(drawn, strokePlace(target.follow, place.frame, place.motions)));
  const next = { ...target, strokes: [...target.strokes, stroke] };
  return { change: putLayer(document, place, `${does} on ${target.name}`, next), layerId: target.id };
}
