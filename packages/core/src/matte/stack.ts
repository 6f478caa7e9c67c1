import { brushMatteInto, passedBy } from '../brush/brushMatte.ts';
import type { CleanUp } from '../document/cleaning.ts';
import type { KeyKind } from '../document/key.ts';
import type { BrushLayer, KeyLayerOf, Layer, LayerKind, LayerMode, LayerOf } from '../document/layer.ts';
import { KEY_KINDS, KEYS } from '../key/keys.ts';
import { BLOCK, blockOf, byBlocks } from '../kernels/blocks.ts';
import { selector } from '../scribble/selector.ts';
import { shapeMatteInto } from '../shape/shapeMatte.ts';
import { cleanUpInPlace, isCleanUpOff, NO_CLEAN_UP } from './cleanUp.ts';
import type { LayerKindEntry, LayerMatte, MatteSource } from './kind.ts';
import { Zeros } from './pairs.ts';

export const LAYER_MODES = ['add', 'within', 'without'] as const satisfies readonly LayerMode[];

/** All keys take part alike: once they have been solved from picks, by what their own table entry computes. */
const keyOf = <K extends KeyKind>(kind: K) => ({
  takesPart: (layer: KeyLayerOf<K>): boolean => layer.key !== null,
  into: (out: Float32Array, layer: KeyLayerOf<K>, source: MatteSource): void => {
    const reads = layer.reads ?? 'balanced';
    const picture = {
      oklab: () => source.oklab(reads),
      encoded: () => source.encoded(reads),
      rangeKey: source.rangeKey,
    };
    if (layer.key) KEYS[kind].into(out, picture, layer.key);
  },
});
type Entries<K extends LayerKind> = { readonly [Each in K]: LayerKindEntry<Each> };
const KEY_LAYERS = Object.fromEntries(KEY_KINDS.map((kind) => [kind, keyOf(kind)])) as unknown as Entries<KeyKind>;

/** Every kind of layer: adding one is its own file, its line here and its line in the document. */
const LAYERS: Entries<LayerKind> = {
  ...KEY_LAYERS,
  shape: {
    takesPart: () => true,
    into: (out, layer, { width, height, scale }) => shapeMatteInto(out, width, height, layer, scale),
  },
  scribble: {
    takesPart: ({ strokes, from = [] }) => from.length > 0 || strokes.some((s) => ['in', 'around'].includes(s.sign)),
    into: (out, layer, { width, height, oklab, seen, carried }) => {
      const found = (layer.from ?? []).flatMap(({ weight, ...from }) => {
        const mask = carried({ weight, ...from });
        return mask ? [{ mask, weight }] : [];
      });
      const picture = { oklab: oklab('balanced'), width, height };
      selector()(out, picture, seen(), layer.strokes, { carried: found, softPx: layer.softPx });
    },
  },
  brush: {
    takesPart: (layer) => layer.strokes.length > 0,
    into: (out, layer, { width, height, scale }) => brushMatteInto(out, width, height, layer.strokes, scale),
  },
  plate: {
    takesPart: (layer) => layer.mediaId !== null,
    into: (out, layer, source) => {
      const plate = layer.mediaId === null ? undefined : source.plate(layer);
      if (plate) out.set(plate);
    },
  },
  group: {
    takesPart: (layer) => layer.layers.some(takesPart),
    into: (out, layer, _source, inner) => stackMatteInto(out, layer.layers, inner),
  },
};
const entryOf = <K extends LayerKind>(layer: LayerOf<K>): LayerKindEntry<K> => LAYERS[layer.kind];

export function takesPart(layer: Layer): boolean {
  return layer.on && entryOf(layer).takesPart(layer);
}

/**
 * A layer's own α before strength, inverted if asked, then cleaned up, into a plane that is all 0 before. `inner` gives
 * the mattes of a group's layers.
 */
export function layerMatteInto(out: Float32Array, layer: Layer, source: MatteSource, inner: LayerMatte): void {
  entryOf(layer).into(out, layer, source, inner);
  if (layer.invert) for (let i = 0; i < out.length; i++) out[i] = 1 - out[i]!;
  if (layer.cleanUp && !isCleanUpOff(layer.cleanUp)) {
    const { width, height, scale } = source;
    cleanUpInPlace(out, width, height, layer.cleanUp, scale, () => source.oklab('balanced').L, source.light);
  }
}

/** Joins a layer's α into the α from above, in place: where either is 0 there is little to do. */
export function combineInto(stack: Float32Array, layer: Float32Array, mode: LayerMode, strength: number): void {
  const [ofStack, ofLayer] = [new Zeros(stack), new Zeros(layer)];
  const { length } = stack;
  let from = 0;
  for (let start = 0; start < length; start += BLOCK) {
    const end = Math.min(start + BLOCK, length);
    const leavesNothing = mode === 'within' && strength === 1 && ofLayer.are(start, end);
    const changesNothing =
      (mode !== 'add' && ofStack.are(start, end)) || (mode !== 'within' && ofLayer.are(start, end));
    if (!leavesNothing && !changesNothing) continue;
    joinWithin(stack, layer, mode, strength, from, start);
    if (!changesNothing) stack.fill(0, start, end);
    from = end;
  }
  joinWithin(stack, layer, mode, strength, from, length);
}
function joinWithin(
  wholeStack: Float32Array,
  wholeLayer: Float32Array,
  mode: LayerMode,
  strength: number,
  from: number,
  to: number,
): void {
  if (from >= to) return;
  const [stack, layer] = [wholeStack.subarray(from, to), wholeLayer.subarray(from, to)];
  const joined = byBlocks([stack, layer], [[0, stack]], (own, n) =>
    own.join(n, blockOf(0), blockOf(1), LAYER_MODES.indexOf(mode), strength),
  );
  if (!joined) combineBySamples(stack, layer, mode, strength);
}
export function combineBySamples(stack: Float32Array, layer: Float32Array, mode: LayerMode, strength: number): void {
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
  const [first] = active;
  out.fill(first && first.mode !== 'add' ? 1 : 0);
  for (const layer of active) {
    if (layer === first && isItself(layer)) out.set(layerMatte(layer));
    else if (layer.kind === 'brush' && layer.mode === 'add') paintOver(out, layer, layerMatte);
    else combineInto(out, layerMatte(layer), layer.mode, layer.strength);
  }
}

/** The layer whose own α is all that a stack comes to, if there is one. */
export function soleLayer(layers: readonly Layer[]): Layer | undefined {
  const [first, ...others] = layers.filter(takesPart);
  return first && others.length === 0 && isItself(first) ? first : undefined;
}
/** What is added to nothing is itself. */
const isItself = ({ mode, strength, kind }: Layer): boolean => mode === 'add' && strength === 1 && kind !== 'brush';

/**
 * A brush that adds paints over what lies above it, in and out: where it has passed, by as much as it was laid on, that
 * gives way to what was painted. The same as every stroke laid on the stack itself, one after the other.
 */
function paintOver(stack: Float32Array, layer: BrushLayer, layerMatte: LayerMatte): void {
  const [painted, passed] = [layerMatte(layer), layerMatte(passedBy(layer))];
  const { strength } = layer;
  for (let i = 0; i < stack.length; i++)
    stack[i] = Math.min(stack[i]! * (1 - strength * passed[i]!) + strength * painted[i]!, 1);
}

/** The clean-up of a whole stack's α, in place. */
export function cleanUpStackInPlace(
  alpha: Float32Array,
  layers: readonly Layer[],
  cleanUp: CleanUp | undefined,
  source: MatteSource,
): void {
  if (layers.some(takesPart))
    cleanUpInPlace(
      alpha,
      source.width,
      source.height,
      cleanUp ?? NO_CLEAN_UP,
      source.scale,
      () => source.oklab('balanced').L,
      source.light,
    );
}
