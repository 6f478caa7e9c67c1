import { expect, it } from 'vitest';
import type { Spot } from '@mellow/contract';
import { drawnOn, lifted, type Marked } from './useMarking.ts';

const begun = (place: Spot): Marked => ({ spot: null, drawing: [[place]] });
it('a hand that stays where it came down has pinned', () => {
  expect(lifted(drawnOn(begun([0.5, 0.5]), [0.505, 0.5]))).toEqual({ spot: [0.5, 0.5], drawing: [] });
});
it('a hand that moves draws, and comes back to where it began without becoming a pin', () => {
  const round = ([[0.6, 0.5], [0.5, 0.5]] as Spot[]).reduce(drawnOn, begun([0.5, 0.5])); // prettier-ignore
  expect(lifted(round)).toEqual(round);
  expect(round.drawing[0]).toHaveLength(3);
});
it('a pin stays while lines are drawn, and moves when another place is pointed at', () => {
  const pinned: Marked = { spot: [0.1, 0.1], drawing: [[[0.2, 0.2], [0.4, 0.4]], [[0.9, 0.9]]] }; // prettier-ignore
  expect(lifted(pinned)).toEqual({ spot: [0.9, 0.9], drawing: [pinned.drawing[0]] });
  expect(lifted({ ...pinned, drawing: [] })).toEqual({ spot: [0.1, 0.1], drawing: [] });
});
it('a line keeps no more places than a note may hold, and none on top of each other', () => {
  let line = begun([0, 0]);
  for (let i = 0; i < 2000; i++) line = drawnOn(line, [(i % 200) / 200, i / 2000]);
  expect(line.drawing[0]!.length).toBe(400);
  expect(drawnOn(begun([0.5, 0.5]), [0.501, 0.5])).toEqual(begun([0.5, 0.5]));
});
