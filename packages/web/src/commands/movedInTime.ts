// Work at other frames: for shots that begin elsewhere in their footage.
import type { Animated, BrushStroke, Layer } from '@mellow/contract';

/**
 * Keyframes so many frames later (earlier, if negative). Of those that would lie before frame 0 the last stands for
 * all: it holds on frame 0, unless another is there.
 */
export function keysLater<K extends { frame: number }>(keys: readonly K[], by: number): K[] {
  const moved = keys.map((k) => ({ ...k, frame: k.frame + by }));
  const kept = moved.filter((k) => k.frame >= 0);
  const last = moved.filter((k) => k.frame < 0).at(-1);
  return last && kept[0]?.frame !== 0 ? [{ ...last, frame: 0 }, ...kept] : kept;
}
export const animatedLater = (animated: Animated, by: number): Animated =>
  Object.fromEntries(Object.entries(animated).map(([name, keys]) => [name, keysLater(keys, by)]));

const spanLater = ({ from, to }: { from: number; to: number }, by: number) => ({
  from: Math.max(from + by, 0),
  to: Math.max(to + by, 0),
});
const strokeLater = (stroke: BrushStroke, by: number): BrushStroke =>
  stroke.span ? { ...stroke, span: spanLater(stroke.span, by) } : stroke;

/**
 * A layer with all that it has at frames so many frames later: keyframes, the frames it is there on, the frames that a
 * plate takes. Where a key's colours were picked stays: they were picked there.
 */
export function layerLater(layer: Layer, by: number): Layer {
  if (by === 0) return layer;
  const { animated, span } = layer;
  const moved = {
    ...layer,
    ...(animated && { animated: animatedLater(animated, by) }),
    ...(span && { span: spanLater(span, by) }),
  };
  if (moved.kind === 'shape') return moved.paths ? { ...moved, paths: keysLater(moved.paths, by) } : moved;
  if (moved.kind === 'brush') return { ...moved, strokes: moved.strokes.map((s) => strokeLater(s, by)) };
  if (moved.kind === 'plate') return { ...moved, offsetFrames: moved.offsetFrames - by };
  if (moved.kind !== 'group') return moved;
  return { ...moved, layers: moved.layers.map((each) => layerLater(each, by) as typeof each) };
}
