import type { Layer } from '../document/layer.ts';

/** Does a stack select anything by strokes, in groups or not? */
export const isScribbled = (layers: readonly Layer[]): boolean =>
  layers.some((l) => (l.kind === 'group' ? isScribbled(l.layers) : l.kind === 'scribble'));
