import { useSyncExternalStore } from 'react';

/** From this width on, screens stand farther away and text is one step larger; px. */
const WIDE = '(min-width: 1680px)';

function onChange(changed: () => void): () => void {
  const query = window.matchMedia(WIDE);
  query.addEventListener('change', changed);
  return () => query.removeEventListener('change', changed);
}
export const useIsWide = (): boolean => useSyncExternalStore(onChange, () => window.matchMedia(WIDE).matches);
