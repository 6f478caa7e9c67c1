// One's own step is taken back though others have gone on.
import { threeWay } from '@mellow/contract';

/** Somebody has changed since what a step changed. */
export class Clash extends Error {}

/**
 * What stands now, with `to` in every place where a step's two sides differ: what others have changed beside it stays.
 * `from` is what stood on the side of the step that is left. Throws Clash where what stands is neither.
 */
export const stepped = (now: unknown, from: unknown, to: unknown): unknown =>
  threeWay(now, from, to, () => {
    throw new Clash();
  });
