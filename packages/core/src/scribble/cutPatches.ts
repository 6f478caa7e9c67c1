import { MaxFlow } from './maxFlow.ts';
import type { Superpixels } from './superpixels.ts';

/** What holds patches together. */
export interface PatchBonds {
  /** What it costs to cut between two patches of one colour. */
  smoothness: number;
  /** How many times the usual squared difference of colour it takes for that to fall to 1/e. */
  usual: number;
}
/** Where the odds come from a whole selection. */
const PATCH_BONDS: PatchBonds = { smoothness: 2, usual: 2 };
const CERTAIN = 1e6;

/** By how many pixels more strokes take a patch in than leave it out. */
export function votesOf({ labels, count }: Superpixels, marks: Int8Array): Int32Array {
  const votes = new Int32Array(count);
  for (let i = 0; i < marks.length; i++) votes[labels[i]!]! += marks[i]!;
  return votes;
}
/** Squared difference of colour across each border between patches. */
export const differences2 = ({ pairs, border, L, a, b }: Superpixels): Float64Array =>
  border.map((_, e) => {
    const p = pairs[2 * e]!;
    const q = pairs[2 * e + 1]!;
    return (L[p]! - L[q]!) ** 2 + (a[p]! - a[q]!) ** 2 + (b[p]! - b[q]!) ** 2;
  });

/**
 * The smallest cut of a picture's patches: 1 for those inside. `votes` over 0 are settled in, under 0 out; `odds`
 * are the
 * log-odds of a pixel of each patch being in.
 */
export function cutPatches(
  patches: Superpixels,
  votes: Int32Array,
  odds: Float64Array,
  bonds: PatchBonds = PATCH_BONDS,
): Uint8Array {
  const { count, labels, area, pairs, border } = patches;
  const graph = new MaxFlow(count, border.length);
  const usualArea = labels.length / count;
  for (let k = 0; k < count; k++) {
    if (votes[k] !== 0) graph.addTerminals(k, votes[k]! > 0 ? CERTAIN : 0, votes[k]! < 0 ? CERTAIN : 0);
    const all = (odds[k]! * area[k]!) / usualArea;
    graph.addTerminals(k, Math.max(all, 0), Math.max(-all, 0));
  }
  const difference2 = differences2(patches);
  const usual2 = mean(difference2) || 1;
  const usualBorder = mean(border) || 1;
  border.forEach((sides, e) => {
    const link = (bonds.smoothness * sides * Math.exp(-difference2[e]! / (bonds.usual * usual2))) / usualBorder;
    graph.addEdge(pairs[2 * e]!, pairs[2 * e + 1]!, link, link);
  });
  graph.solve();
  return Uint8Array.from({ length: count }, (_, k) => (graph.isSourceSide(k) ? 1 : 0));
}
const mean = (values: Float64Array): number => values.reduce((s, v) => s + v, 0) / Math.max(values.length, 1);
