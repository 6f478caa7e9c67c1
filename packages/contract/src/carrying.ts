import { z } from 'zod';
import { LayerId, RunId, SightingId } from './ids.ts';
import type { CarryRun, Layer } from './layer.ts';

/**
 * How sure each frame is that a pass has found, in the order it went, 0..1; 0 where the piece is out of sight.
 */
export const Certainties = z.array(z.number().min(0).max(1));
export type Certainties = z.infer<typeof Certainties>;

/** A frame that a pass has just found: the `count`th. */
export const CarriedNews = z.object({
  runId: RunId,
  count: z.number().int().positive(),
  certainty: z.number().min(0).max(1),
});
export type CarriedNews = z.infer<typeof CarriedNews>;

/** Carries a selection from all frames with strokes; what stands is left as it is, unless `anew`. */
export const CarryRequest = z.object({
  sightingId: SightingId,
  layerId: LayerId,
  anew: z.boolean().default(false),
});
export type CarryRequest = z.infer<typeof CarryRequest>;

/** The passes of all carried selections of a stack, those in groups included. */
export const carryRunsOf = (layers: readonly Layer[]): CarryRun[] =>
  layers.flatMap((l) => {
    if (l.kind === 'group') return carryRunsOf(l.layers);
    return l.kind === 'scribble' ? (l.carried ?? []) : [];
  });

/** The passes that a stack on one frame reads; see `CarriedFrom`. */
export const carriedRunIds = (layers: readonly Layer[]): string[] =>
  layers.flatMap((l) => {
    if (l.kind === 'group') return carriedRunIds(l.layers);
    return l.kind === 'scribble' ? [...(l.carried ?? []).map((r) => r.id), ...(l.from ?? []).map((f) => f.runId)] : [];
  });

/** The layers as the renderer takes them: with what each pass has found. */
export function withFound(layers: readonly Layer[], carried: Record<string, Certainties>): Layer[] {
  if (carryRunsOf(layers).length === 0) return layers as Layer[];
  return layers.map((layer) => {
    if (layer.kind === 'group') return { ...layer, layers: withFound(layer.layers, carried) as typeof layer.layers };
    if (layer.kind !== 'scribble' || !layer.carried) return layer;
    return { ...layer, carried: layer.carried.map((run) => ({ ...run, found: carried[run.id] ?? [] })) };
  });
}
