import { useEffect } from 'react';
import type { ShotId } from '@mellow/contract';
import { useAppSelector } from '../app/store.ts';
import { pageId } from '../data/page.ts';
import { ask } from '../data/requests.ts';

/** Tells the others at which shot this page is, whenever what the server says of it is something else. */
export function useTellWhere(projectId: string, shotId: ShotId | null): void {
  const told = useAppSelector((s) => s.tray.people.find((p) => p.page === pageId)?.shotId);
  useEffect(() => {
    if (told === undefined || told === shotId) return;
    void ask('here', { params: { projectId }, body: { page: pageId, shotId } });
  }, [projectId, shotId, told]);
}
