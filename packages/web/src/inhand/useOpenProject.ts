import { useEffect } from 'react';
import { useParams } from 'react-router';
import type { ProjectDocument } from '@mellow/contract';
import { openProject, useAppDispatch } from '../app/store.ts';
import { api, useGetProjectQuery } from '../data/api.ts';
import { hearEvents } from '../data/events.ts';
import { hasUnsent } from '../editing/editing.ts';
import { EVERYTHING, handlersOf, type Tag } from './news.ts';

/** The project of the address, kept up to date by what the server tells. */
export function useOpenProject(): { document: ProjectDocument | undefined; error: unknown } {
  const projectId = useParams().projectId!;
  const dispatch = useAppDispatch();
  const { data: document, error } = useGetProjectQuery(projectId);
  useEffect(() => openProject(projectId), [projectId]);
  useEffect(() => {
    const refetch = (tags: Tag[]) => dispatch(api.util.invalidateTags(tags));
    return hearEvents(projectId, handlersOf(projectId, dispatch, refetch, hasUnsent), () => refetch(EVERYTHING));
  }, [dispatch, projectId]);
  return { document, error };
}
