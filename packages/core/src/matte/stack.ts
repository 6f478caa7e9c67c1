import type { OklabPlanes } from '../colour/oklabPlanes.ts';
import { rangeKeyInto, type RangeKey } from '../key/rangeKey.ts';
import { shapeMatteInto, type ShapeMatte } from '../shape/shapeMatte.ts';

/** How a layer joins what lies above it: union, intersection, subtraction. */
export const LAYER_MODES = ['add', 'within', 'without'] as const;
export type LayerMode = (typeof LAYER_MODES)[number];

interface LayerCommon {
  on: boolean;
  mode: LayerMode;
  invert: boolean;
  /** 0 = the layer has no effect in any mode, 1 = full. */
  strength: number;
}
/** A key without picks has no windows yet; it takes no part in the stack. */
export type KeyLayer = LayerCommon & { kind: 'range'; key: RangeKey | null };
export type ShapeLayer = LayerCommon & { kind: 'shape' } & ShapeMatte;
export type Layer = KeyLayer | ShapeLayer;

/** The picture as the layers see it. `scale` is this size over the full resolution. */
export interface MatteSource {
  width: number;
  height: number;
  scale: number;
  /** OKLab of the picture, computed when a key first asks for it. */
  oklab: () => OklabPlanes;
}

export const takesPart = (layer: Layer): boolean => layer.on && !(layer.kind === 'range' && !layer.key);

/** A layer's own α: key or shape, inverted if asked, before strength. */
export function layerMatteInto(out: Float32Array, layer: Layer, source: MatteSource): void {
  if (layer.kind === 'shape') shapeMatteInto(out, source.width, source.height, layer, source.scale);
  else if (layer.key) rangeKeyInto(out, source.oklab(), layer.key);
  else out.fill(0);
  if (layer.invert) for (let i = 0; i < out.length; i++) out[i] = 1 - out[i]!;
}

/** Joins a layer's α into the α from above, in place. */
export function combineInto(stack: Float32Array, layer: Float32Array, mode: LayerMode, strength: number): void {
  if (mode === 'add') for (let i = 0; i < stack.length; i++) stack[i] = Math.max(stack[i]!, strength * layer[i]!);
  else if (mode === 'within') for (let i = 0; i < stack.length; i++) stack[i] = stack[i]! * (1 - strength * (1 - layer[i]!));
  else for (let i = 0; i < stack.length; i++) stack[i] = stack[i]! * (1 - strength * layer[i]!);
}

/**
 * α of a whole stack, top to bottom. It starts from nothing for a first layer that adds, from everything for one that
 * keeps within or without. `layerMatte` gives a layer's own α and may come from a cache. No layer: nothing is selected.
 */
export function stackMatteInto(out: Float32Array, layers: readonly Layer[], layerMatte: (layer: Layer) => Float32Array): void {
  const active = layers.filter(takesPart);
  out.fill(active.length > 0 && active[0]!.mode !== 'add' ? 1 : 0);
  for (const layer of active) combineInto(out, layerMatte(layer), layer.mode, layer.strength);
}
