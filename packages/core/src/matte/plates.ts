// Which frames of plates a stack of layers reads.
import type { Layer, PlateLayer } from '../document/layer.ts';

/** Names the frames a plate layer reads: layers with the same key share them. */
export const plateId = (layer: PlateLayer): string => `${layer.mediaId} ${layer.channel} ${layer.offsetFrames}`;

/** Every plate layer of a stack, those in groups included. */
export const platesOf = (layers: readonly Layer[]): PlateLayer[] =>
  layers.flatMap((l) => {
    if (l.kind === 'group') return platesOf(l.layers);
    return l.kind === 'plate' && l.mediaId !== null ? [l] : [];
  });
