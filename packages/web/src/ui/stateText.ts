import type { SightingState } from '@mellow/contract';

/** How far a sighting is, by a mark and a word: the same wherever it is said. */
export const STATE_TEXT: Record<SightingState, string> = {
  rough: '○ rough',
  ready: '◐ ready',
  approved: '● approved',
};
