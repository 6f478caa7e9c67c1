// Which films of a review are seen at once.
import { addressOf } from '../data/requests.ts';
import type { ReviewFile, ReviewPage } from '@mellow/contract';

export type Mode = 'wipe' | 'side by side' | 'approved';
/** Films of these lie over each other, with a line between them. */
export const isWiped = (mode: Mode): boolean => mode !== 'side by side';
export interface Film {
  key: string;
  label: string;
  /** Null: not rendered yet, or not to be had. */
  address: string | null;
  file: ReviewFile;
}

/** The film a shot was approved by before, in a colourway. */
export const approvedOf = (
  { approved }: Pick<ReviewPage, 'approved'>,
  shotId: string,
  colourwayId: string,
): ReviewPage['approved'][number] | undefined =>
  approved.find((f) => f.shotId === shotId && f.colourwayId === colourwayId);

/**
 * A wipe: as filmed over one colourway; of the approved: what was approved before over what it is now. Side by side: as
 * filmed, then every colourway.
 */
export function filmsShown(
  page: Pick<ReviewPage, 'files' | 'colourways' | 'approved'>,
  token: string,
  { shotId, colourwayId, mode }: { shotId: string; colourwayId: string; mode: Mode },
): Film[] {
  const { files, colourways } = page;
  const filmOf = (file: ReviewFile | undefined, label: string): Film[] => {
    if (!file) return [];
    const { deliveryId } = file;
    const address = file.state === 'done' ? addressOf('reviewFile', { token, deliveryId }) : null;
    return [{ key: deliveryId, label, address, file }];
  };
  const film = (wanted: string | null, label: string): Film[] =>
    filmOf(
      files.find((f) => f.shotId === shotId && f.colourwayId === wanted),
      label,
    );
  const shown = colourways.filter((c) => mode === 'side by side' || c.id === colourwayId);
  const coloured = shown.flatMap((c) => film(c.id, c.name));
  if (mode === 'side by side') return [...film(null, 'as filmed'), ...coloured];
  const before = mode === 'approved' ? approvedOf(page, shotId, colourwayId) : undefined;
  return [...coloured, ...(before ? filmOf(before, `approved: ${before.reviewName}`) : film(null, 'as filmed'))];
}

/** Frames rendered of all films, and how many there are. Films that failed or were cancelled are not waited for. */
export function rendered(files: readonly ReviewFile[]): { done: number; total: number; isUnderWay: boolean } {
  const waited = files.filter((f) => f.state !== 'failed' && f.state !== 'cancelled');
  const sum = (of: (f: ReviewFile) => number) => waited.reduce((all, f) => all + of(f), 0);
  return {
    done: sum((f) => (f.state === 'done' ? f.total : f.done)),
    total: sum((f) => f.total),
    isUnderWay: waited.some((f) => f.state !== 'done'),
  };
}
