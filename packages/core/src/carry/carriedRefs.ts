// Which masks that selections were carried to a stack of layers reads on a frame.
import type { CarriedFrom } from '../document/carried.ts';
import type { Layer } from '../document/layer.ts';

/** Names a mask: layers with the same share it. */
export const carriedId = ({ runId, frame }: Pick<CarriedFrom, 'runId' | 'frame'>): string => `${runId} ${frame}`;

/** Every mask that layers read, as they are on a frame; those in groups included. */
export const carriedOf = (layers: readonly Layer[]): CarriedFrom[] =>
  layers.flatMap((l) => {
    if (l.kind === 'group') return carriedOf(l.layers);
    return l.kind === 'scribble' ? (l.from ?? []) : [];
  });
