import type { OklabPlanes } from '../colour/oklabPlanes.ts';
import { lumaKeyInto } from '../key/lumaKey.ts';
import { rangeKeyInto } from '../key/rangeKey.ts';
import { rgbKeyInto } from '../key/rgbKey.ts';
import { sampleKeyInto } from '../key/sampleKey.ts';
import type { Key } from '../key/solveKey.ts';
import type { EncodedPlanes } from '../colour/planes.ts';
import type { Follow } from '../animate/layerAt.ts';
import type { Keyframe } from '../animate/keyframes.ts';
import type { Animated } from '../animate/numbers.ts';
import type { Geometry } from '../shape/path.ts';
import type { Placement } from '../shape/placement.ts';
import { selectionInto } from '../scribble/selection.ts';
import type { Stroke } from '../scribble/strokes.ts';
import { shapeMatteInto, type ShapeMatte } from '../shape/shapeMatte.ts';
import { cleanUpInPlace, isCleanUpOff, NO_CLEAN_UP, type CleanUp } from './cleanUp.ts';

/** How a layer joins what lies above it: union, intersection, subtraction. */
export const LAYER_MODES = ['add', 'within', 'without'] as const;
export type LayerMode = (typeof LAYER_MODES)[number];

interface LayerCommon {
  on: boolean;
  mode: LayerMode;
  invert: boolean;
  /** 0 = the layer has no effect in any mode, 1 = full. */
  strength: number;
  /** Left out: none. */
  cleanUp?: CleanUp | undefined;
  /** Keyframes of its numbers, by dotted name. */
  animated?: Animated | undefined;
  /** The frames it is there on, both included; left out: all. */
  span?: { from: number; to: number } | undefined;
}
/** Whether a key reads the picture as it came in or after the shot's balance. */
export type KeyReads = 'balanced' | 'unbalanced';
/** A key without picks has no windows yet; it takes no part in the stack. */
export type KeyLayer = LayerCommon & { reads?: KeyReads | undefined } & Key;
/** `geometry` is the path without keyframes; `paths` its keyframes. Placement and followed track are laid on top, in that order. */
export type ShapeLayer = LayerCommon & {
  kind: 'shape';
  paths?: readonly Keyframe<Geometry>[] | undefined;
  placement?: Placement | undefined;
  follow?: Follow | undefined;
} & ShapeMatte;
/** A matte made elsewhere: frame f of the shot takes frame f + `offsetFrames` of the media. */
export type PlateLayer = LayerCommon & {
  kind: 'plate';
  mediaId: string | null;
  channel: 'luma' | 'alpha';
  offsetFrames: number;
};
/** What a few strokes select: see scribble/selection. The strokes ride on a followed track. */
export type ScribbleLayer = LayerCommon & { kind: 'scribble'; strokes: readonly Stroke[]; follow?: Follow | undefined };
/** Layers combined with one another before they join the rest as one. */
export type GroupLayer = LayerCommon & { kind: 'group'; layers: readonly Layer[] };
export type Layer = KeyLayer | ShapeLayer | PlateLayer | ScribbleLayer | GroupLayer;

/** The picture as the layers see it. `scale` is this size over the full resolution. */
export interface MatteSource {
  width: number;
  height: number;
  scale: number;
  /** OKLab of the picture, computed when a key first asks for it. */
  oklab: (reads: KeyReads) => OklabPlanes;
  /** Encoded values (0..1 nominal) of the picture. */
  encoded: (reads: KeyReads) => EncodedPlanes;
  /** α of a plate on this frame, `width × height`; undefined where the plate has no such frame. */
  plate: (layer: PlateLayer) => Float32Array | undefined;
}

const isKey = (layer: Layer): layer is KeyLayer =>
  layer.kind !== 'shape' && layer.kind !== 'plate' && layer.kind !== 'scribble' && layer.kind !== 'group';
export function takesPart(layer: Layer): boolean {
  if (!layer.on) return false;
  if (layer.kind === 'plate') return layer.mediaId !== null;
  if (layer.kind === 'scribble') return layer.strokes.some((s) => s.sign === 'in');
  if (layer.kind === 'group') return layer.layers.some(takesPart);
  return !(isKey(layer) && layer.key === null);
}

function keyInto(out: Float32Array, layer: KeyLayer, source: MatteSource): void {
  const reads = layer.reads ?? 'balanced';
  if (layer.key === null) out.fill(0);
  else if (layer.kind === 'range') rangeKeyInto(out, source.oklab(reads), layer.key);
  else if (layer.kind === 'sample') sampleKeyInto(out, source.oklab(reads), layer.key);
  else if (layer.kind === 'rgb') rgbKeyInto(out, source.encoded(reads), layer.key);
  else
    lumaKeyInto(
      out,
      () => source.encoded(reads),
      () => source.oklab(reads),
      layer.key,
    );
}

/** Gives a layer's own α; may come from a cache. */
export type LayerMatte = (layer: Layer) => Float32Array;

/**
 * A layer's own α before strength: key, shape, plate, scribble or group, inverted if asked, then cleaned up. `inner` gives the
 * mattes of a group's layers.
 */
export function layerMatteInto(out: Float32Array, layer: Layer, source: MatteSource, inner: LayerMatte): void {
  const { width, height, scale } = source;
  if (layer.kind === 'shape') shapeMatteInto(out, width, height, layer, scale);
  else if (layer.kind === 'scribble') selectionInto(out, source.oklab('balanced'), width, height, scale, layer.strokes);
  else if (layer.kind === 'group') stackMatteInto(out, layer.layers, inner);
  else if (layer.kind === 'plate') {
    const plate = layer.mediaId === null ? undefined : source.plate(layer);
    if (plate) out.set(plate);
    else out.fill(0);
  } else keyInto(out, layer, source);
  if (layer.invert) for (let i = 0; i < out.length; i++) out[i] = 1 - out[i]!;
  if (layer.cleanUp && !isCleanUpOff(layer.cleanUp))
    cleanUpInPlace(out, width, height, layer.cleanUp, scale, () => source.oklab('balanced').L);
}

/** Joins a layer's α into the α from above, in place. */
export function combineInto(stack: Float32Array, layer: Float32Array, mode: LayerMode, strength: number): void {
  if (mode === 'add') for (let i = 0; i < stack.length; i++) stack[i] = Math.max(stack[i]!, strength * layer[i]!);
  else if (mode === 'within')
    for (let i = 0; i < stack.length; i++) stack[i] = stack[i]! * (1 - strength * (1 - layer[i]!));
  else for (let i = 0; i < stack.length; i++) stack[i] = stack[i]! * (1 - strength * layer[i]!);
}

/**
 * α of a whole stack, top to bottom. It starts from nothing for a first layer that adds, from everything for one that
 * keeps within or without. No layer: nothing is selected.
 */
export function stackMatteInto(out: Float32Array, layers: readonly Layer[], layerMatte: LayerMatte): void {
  const active = layers.filter(takesPart);
  out.fill(active.length > 0 && active[0]!.mode !== 'add' ? 1 : 0);
  for (const layer of active) combineInto(out, layerMatte(layer), layer.mode, layer.strength);
}

/** The stack, then the clean-up of the whole. */
export function cleanedStackMatteInto(
  out: Float32Array,
  layers: readonly Layer[],
  cleanUp: CleanUp | undefined,
  source: MatteSource,
  layerMatte: LayerMatte,
): void {
  stackMatteInto(out, layers, layerMatte);
  if (layers.some(takesPart))
    cleanUpInPlace(
      out,
      source.width,
      source.height,
      cleanUp ?? NO_CLEAN_UP,
      source.scale,
      () => source.oklab('balanced').L,
    );
}

/** Names the frames a plate layer reads: layers with the same key share them. */
export const plateKey = (layer: PlateLayer): string => `${layer.mediaId} ${layer.channel} ${layer.offsetFrames}`;

/** Every plate layer of a stack, those in groups included. */
export const platesOf = (layers: readonly Layer[]): PlateLayer[] =>
  layers.flatMap((l) =>
    l.kind === 'plate' && l.mediaId !== null ? [l] : l.kind === 'group' ? platesOf(l.layers) : [],
  );
