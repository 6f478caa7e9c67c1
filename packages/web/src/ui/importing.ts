// Bringing files in: what to send again, and what to say of those that did not come in.
import type { RefusedFile } from '@mellow/contract';

/** One batch that could come in if it were timed frame by frame: the files that have the same nearest standard rate. */
export interface TimingOffer {
  fps: number;
  names: string[];
}
/** The offers made for refused files, one for each rate. */
export function timingOffers(refused: readonly RefusedFile[]): TimingOffer[] {
  const byRate = new Map<number, string[]>();
  for (const { name, offer } of refused) if (offer) byRate.set(offer.fps, [...(byRate.get(offer.fps) ?? []), name]);
  return [...byRate].map(([fps, names]) => ({ fps, names }));
}
/** A rate as it is written: 23.976, 25. */
export const rateText = (fps: number): string => String(+fps.toFixed(3));

/** Why a file did not come in, to stand behind its name. */
export const reasonText = ({ name, reason }: RefusedFile): string => reason.replace(`“${name}” was not imported: `, '');

/** The chosen files a refused name stands for: a file of its own, or the numbered images of a sequence. */
export function filesNamed<F extends { name: string }>(files: readonly F[], names: readonly string[]): F[] {
  const own = files.filter((f) => names.includes(f.name));
  return own.length > 0 ? own : [...files];
}
