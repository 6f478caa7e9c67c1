import { geometryAt } from './geometryAt.ts';
import { carriedFrom } from '../carry/carriedFrom.ts';
import { numbersAt } from './numbers.ts';
import { carriedThere, type Motions, placeOf } from './place.ts';
import { strokeOn, strokePlace, strokeThere } from './strokesAt.ts';
import type { Geometry } from '../document/geometry.ts';
import type { Layer, ShapeLayer, SingleLayer, Stroke } from '../document/layer.ts';

/** A layer's path on a frame before it is placed: in its own frame, where its keyframes live. */
export const ownGeometryAt = (layer: Pick<ShapeLayer, 'geometry' | 'paths' | 'animated'>, frame: number): Geometry => {
  const base = layer.paths?.length ? geometryAt(layer.paths, frame) : layer.geometry;
  return numbersAt({ geometry: base }, layer.animated, frame).geometry;
};

/**
 * A layer as its controls show it on a frame: numbers and own path of that frame; placement, follow and keyframes as
 * stored. The same object where nothing of it is animated.
 */
export function shownLayerAt<L extends Layer>(layer: L, frame: number): L {
  const now = numbersAt(layer, layer.animated, frame);
  return layer.kind === 'shape' && layer.paths?.length ? { ...now, geometry: ownGeometryAt(layer, frame) } : now;
}

/**
 * A layer as it is on a frame: numbers, path, placement and followed motion resolved; off outside its span of frames.
 */
export function layerAt(layer: Layer, frame: number, motions: Motions): Layer {
  if (layer.kind !== 'group') return singleLayerAt(layer, frame, motions);
  const { animated, span: _span, ...group } = layer;
  const now = { ...numbersAt(group, animated, frame), on: isThereAt(layer, frame) };
  return { ...now, layers: now.layers.map((l) => singleLayerAt(l, frame, motions)) };
}

const isWithin = (span: Layer['span'], frame: number): boolean => !span || (frame >= span.from && frame <= span.to);
const isThereAt = ({ on, span }: Layer, frame: number): boolean => on && isWithin(span, frame);

function singleLayerAt(layer: SingleLayer, frame: number, motions: Motions): SingleLayer {
  if (!isAnimated(layer)) return layer;
  const { animated, span: _span, ...still } = layer;
  const now: SingleLayer = { ...numbersAt(still as SingleLayer, animated, frame), on: isThereAt(layer, frame) };
  if (now.kind === 'scribble' && now.carried) {
    const { carried: _carried, follow: _follow, ...scribble } = now;
    return {
      ...scribble,
      strokes: scribble.strokes.filter((s) => s.frame === frame).map((s) => counting(s, frame)),
      from: carriedFrom(now, frame),
    };
  }
  if (now.kind === 'scribble') {
    const { follow, ...scribble } = now;
    const there = scribble.strokes.map((s) => strokeOn(counting(s, frame), follow, frame, motions));
    return { ...scribble, strokes: there };
  }
  if (now.kind === 'brush') {
    const { follow, ...brush } = now;
    const place = strokePlace(follow, frame, motions);
    const there = brush.strokes.filter(({ span }) => isWithin(span, frame));
    return { ...brush, strokes: there.map((s) => strokeThere(s, place)) };
  }
  if (now.kind !== 'shape' || layer.kind !== 'shape') return now;
  const { paths: _paths, placement: _placement, follow: _follow, ...shape } = now;
  return { ...shape, geometry: carriedThere(ownGeometryAt(layer, frame), placeOf(layer, frame, motions)) };
}

/** A stroke as it counts on a frame: whole on the one it was drawn on, whatever has been done to the picture since. */
export function counting(stroke: Stroke, frame: number): Stroke {
  if (!stroke.looks || stroke.frame !== frame) return stroke;
  const { looks: _looks, ...whole } = stroke;
  return whole;
}

/** Does anything in the stack depend on the frame number by itself (not only through the picture)? */
export const isAnimated = (layer: Layer): boolean =>
  Boolean(
    layer.animated ||
    layer.span ||
    (layer.kind === 'shape' && (layer.paths || layer.follow || layer.placement)) ||
    (layer.kind === 'scribble' && (layer.follow || layer.carried || layer.strokes.some((s) => s.follow || s.looks))) ||
    (layer.kind === 'brush' && (layer.follow || layer.strokes.some((s) => s.span))) ||
    (layer.kind === 'group' && layer.layers.some(isAnimated)),
  );
