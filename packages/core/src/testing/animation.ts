import type { Keyframing } from '../animate/edits.ts';

/** How an edit on a frame meets keyframes: with none of the choices made, unless said. */
export const keyframing = (frame: number, more: Partial<Keyframing> = {}): Keyframing => ({
  frame,
  auto: false,
  everywhere: false,
  ease: 'linear',
  ...more,
});
