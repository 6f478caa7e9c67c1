import { useCallback, useEffect, useRef } from 'react';
import { EarlyKeys } from './EarlyKeys.ts';

const nextTask = () => new Promise<void>((done) => setTimeout(done));

/** Keeps what is pressed from now on until what it gives is called: by then the commands are there. */
export function useEarlyKeys(): () => void {
  const kept = useRef<EarlyKeys | undefined>(undefined);
  useEffect(() => {
    const early = new EarlyKeys(document);
    kept.current = early;
    return () => early.forget();
  }, []);
  return useCallback(() => void kept.current?.press(nextTask), []);
}
