import { setImmediate } from 'node:timers/promises';

/** For so long nobody else is answered, at most. */
const LONGEST_HOLD_MS = 20;

/**
 * For long work in this thread: asked after each piece of it, it lets others be answered whenever that has not been
 * done for a while.
 */
export function breather(): () => Promise<void> {
  let since = performance.now();
  return async () => {
    if (performance.now() - since < LONGEST_HOLD_MS) return;
    await setImmediate();
    since = performance.now();
  };
}
