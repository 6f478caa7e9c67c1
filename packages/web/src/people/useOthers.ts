import { useMemo } from 'react';
import { useAppSelector } from '../app/store.ts';
import { useMeQuery } from '../data/people.ts';
import { othersOf, type Other } from './others.ts';

/** Who else has the project open; none where nobody signs in. */
export function useOthers(): Other[] {
  const own = useMeQuery().data?.person?.id;
  const pages = useAppSelector((s) => s.tray.people);
  return useMemo(() => (own ? othersOf(pages, own) : []), [own, pages]);
}
