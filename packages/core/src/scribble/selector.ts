// Selecting by strokes is a large part of core: a page loads it with the first scribble, all else has it with core.
import type { selectionInto } from './selection.ts';

type Selector = typeof selectionInto;
let provided: Selector | undefined;

export function provideSelector(selector: Selector): void {
  provided = selector;
}
/** Throws where selecting has not been provided. */
export function selector(): Selector {
  if (!provided) throw new Error('selecting by strokes has not been loaded');
  return provided;
}
