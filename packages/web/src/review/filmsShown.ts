// Which films of a review are seen at once.
import { addressOf } from '../data/requests.ts';
import type { ReviewFile, ReviewPage } from '@mellow/contract';

export type Mode = 'wipe' | 'side by side';
export interface Film {
  key: string;
  label: string;
  /** Null: not rendered yet, or not to be had. */
  address: string | null;
  file: ReviewFile;
}

/** A wipe: as filmed over one colourway. Side by side: as filmed, then every colourway. */
export function filmsShown(
  { files, colourways }: Pick<ReviewPage, 'files' | 'colourways'>,
  token: string,
  { shotId, colourwayId, mode }: { shotId: string; colourwayId: string; mode: Mode },
): Film[] {
  const film = (wanted: string | null, label: string): Film[] => {
    const file = files.find((f) => f.shotId === shotId && f.colourwayId === wanted);
    if (!file) return [];
    const { deliveryId } = file;
    const address = file.state === 'done' ? addressOf('reviewFile', { token, deliveryId }) : null;
    return [{ key: deliveryId, label, address, file }];
  };
  const shown = colourways.filter((c) => mode === 'side by side' || c.id === colourwayId);
  const coloured = shown.flatMap((c) => film(c.id, c.name));
  return mode === 'wipe' ? [...coloured, ...film(null, 'as filmed')] : [...film(null, 'as filmed'), ...coloured];
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
