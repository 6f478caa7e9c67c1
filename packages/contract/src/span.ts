// The frames of its footage that a shot shows. Frames are numbered as the footage is, everywhere.
import { z } from 'zod';
import type { Media } from './media.ts';

const frame = z.number().int().min(0).max(100_000_000);
/** First and last frame, both included. */
export const Span = z.object({ from: frame, to: frame }).refine(({ from, to }) => from <= to, {
  message: 'must end no earlier than it begins',
});
export type Span = z.infer<typeof Span>;

type Shown = { span: Span | null };
type Footage = Pick<Media, 'frames'>;
/** The frames of a shot: its span as far as the footage goes, or all of the footage. */
export function framesOf({ span }: Shown, { frames }: Footage): Span {
  const last = frames - 1;
  if (!span) return { from: 0, to: last };
  const from = Math.min(span.from, last);
  return { from, to: Math.max(Math.min(span.to, last), from) };
}
/** A span with handles: so many frames more at either end, as far as the footage goes. */
export const withHandles = ({ from, to }: Span, { frames }: Footage, handles: number): Span => ({
  from: Math.max(from - handles, 0),
  to: Math.min(to + handles, frames - 1),
});
export const frameCount = ({ from, to }: Span): number => to - from + 1;
export const middleOf = ({ from, to }: Span): number => from + Math.floor((to - from + 1) / 2);
/** The frame of a span that is nearest to one. */
export const within = ({ from, to }: Span, at: number): number => Math.min(Math.max(at, from), to);
