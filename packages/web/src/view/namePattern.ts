// How this browser names rendered files, from one visit to the next.
import { patternFault, PLAIN_PATTERN } from '@mellow/contract';

const KEY = 'mellow:name-pattern';

/** The pattern that was used last; the plain one where none was, or it is no good. */
export function keptPattern(storage: Pick<Storage, 'getItem'>): string {
  const kept = storage.getItem(KEY);
  return kept !== null && patternFault(kept) === undefined ? kept : PLAIN_PATTERN;
}
export const keepPattern = (storage: Pick<Storage, 'setItem'>, pattern: string): void => storage.setItem(KEY, pattern);
