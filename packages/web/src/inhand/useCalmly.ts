import { useEffect, useState } from 'react';
import { debounce } from 'throttle-debounce';

/** A hand rests when it has not moved for so long, ms. */
export const REST_MS = 200;
/** How often figures come while it moves, ms: those that change more often cannot be read. */
export const FOLLOW_MS = 400;

/** A value that changes with every move of a hand: when it rests while it moves something, at once when it does not. */
export function useCalmly<T>(value: T, isMoving: boolean): T {
  const [calm, setCalm] = useState({ value });
  // where the next move begins
  if (!isMoving && calm.value !== value) setCalm({ value });
  const [atRest] = useState(() => debounce(REST_MS, (newest: T) => setCalm({ value: newest })));
  useEffect(() => {
    if (isMoving) atRest(value);
    else atRest.cancel({ upcomingOnly: true });
  }, [atRest, value, isMoving]);
  useEffect(() => () => atRest.cancel({ upcomingOnly: true }), [atRest]);
  return isMoving ? calm.value : value;
}
