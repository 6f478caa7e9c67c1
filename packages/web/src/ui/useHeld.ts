import { useState } from 'react';

/**
 * A value that a hand pulls here: what it is pulled to while it is held, whatever the document says by then, and
 * otherwise the document's own.
 */
export function useHeld<T>(own: T) {
  const [held, setHeld] = useState<{ value: T }>();
  return { shown: held ? held.value : own, hold: (value: T) => setHeld({ value }), letGo: () => setHeld(undefined) };
}
