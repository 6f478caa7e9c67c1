import { useEffect, useState } from 'react';
import { useAppSelector } from '../app/store.ts';
import { REST_MS } from './useCalmly.ts';

/** Is a hand changing something right now? One that rests is not, though it may still hold on. */
export function useIsMoving(): boolean {
  const draft = useAppSelector((s) => s.draft);
  const [rested, setRested] = useState(draft);
  useEffect(() => {
    const timer = setTimeout(() => setRested(draft), REST_MS);
    return () => clearTimeout(timer);
  }, [draft]);
  return draft !== rested && Object.keys(draft).length > 0;
}
