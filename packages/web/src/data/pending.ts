// What the page has edited and the server may not know yet. A fetch that began before an edit was saved is older than
// the page.
import type { Edit, ProjectDocument, RunResult } from '@mellow/contract';
import type { Unsent } from '../editing/outbox.ts';

export interface Pending {
  /** Edits made but not acknowledged, in order. */
  unsent: readonly Unsent[];
  /** How many have been acknowledged since the page was opened, steps of the history included. */
  acknowledged: number;
  /** Called before an edit that waits is laid over the project as the server has it. */
  onLaidOver?: (document: ProjectDocument, edit: Edit) => void;
}
export const pending: Pending = { unsent: [], acknowledged: 0 };

/** Tracked frames as they were told of, the last of them, each with its number. */
const MOST_TOLD = 400;
let told: { number: number; result: RunResult }[] = [];
let count = 0;
export function remember(result: RunResult): void {
  told = [...told.slice(1 - MOST_TOLD), { number: ++count, result }];
}
export const toldSoFar = (): number => count;
export const toldSince = (number: number): RunResult[] => told.filter((t) => t.number > number).map((t) => t.result);
