import { boxOfBrush } from '../brush/brushMatte.ts';
import type { Layer } from '../document/layer.ts';
import { boxOfShape } from '../shape/shapeMatte.ts';
import { sharedBox, unitedBox, type PixelBox } from './bounds.ts';
import { isCleanUpOff } from './cleanUp.ts';
import { takesPart } from './stack.ts';

/** Where something may be selected; undefined: nowhere. */
type Support = PixelBox | undefined;

/**
 * The part of a frame outside which a stack selects nothing, before the clean-up of the whole: what lies within a shape
 * only needs no look at the rest of the picture.
 */
export function supportOf(layers: readonly Layer[], width: number, height: number, scale: number): Support {
  const whole = { x0: 0, y0: 0, x1: width, y1: height };
  const ofLayer = (layer: Layer): Support => {
    if (layer.invert || (layer.cleanUp && !isCleanUpOff(layer.cleanUp))) return whole;
    if (layer.kind === 'group') return supportOf(layer.layers, width, height, scale);
    if (layer.kind === 'brush') return boxOfBrush(layer.strokes, width, height, scale);
    if (layer.kind !== 'shape') return whole;
    const box = boxOfShape(layer, width, height, scale);
    return box === 'whole' ? whole : box;
  };
  const active = layers.filter(takesPart);
  let support: Support = active.length > 0 && active[0]!.mode !== 'add' ? whole : undefined;
  for (const layer of active) {
    const own = layer.mode === 'without' ? undefined : ofLayer(layer);
    if (layer.mode === 'add') support = support && own ? unitedBox(support, own) : (support ?? own);
    else if (layer.mode === 'within' && layer.strength === 1) support = support && own && sharedBox(support, own);
  }
  return support;
}
