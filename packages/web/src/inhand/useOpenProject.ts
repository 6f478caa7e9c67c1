import { useEffect, useState } from 'react';
import { useParams } from 'react-router';
import type { ProjectDocument } from '@mellow/contract';
import { openProject, useAppDispatch } from '../app/store.ts';
import { api, useGetProjectQuery } from '../data/api.ts';
import { hearEvents } from '../data/events.ts';
import { documentOf, hasUnsent } from '../editing/editing.ts';
import { EVERYTHING, handlersOf, type Tag } from './news.ts';

/**
 * The project of the address, kept up to date by what the server tells. It is fetched once that is heard, so that
 * nothing is missed that others do meanwhile; where it cannot be heard, at once, and again when it can.
 */
export function useOpenProject(): { document: ProjectDocument | undefined; error: unknown } {
  const projectId = useParams().projectId!;
  const dispatch = useAppDispatch();
  const [wanted, setWanted] = useState<string>();
  const isWaited = wanted !== projectId && !documentOf(projectId);
  const { currentData: document, error } = useGetProjectQuery(projectId, { skip: isWaited });
  useEffect(() => openProject(projectId), [projectId]);
  useEffect(() => {
    const refetch = (tags: Tag[]) => dispatch(api.util.invalidateTags(tags));
    let isAsked = documentOf(projectId) !== undefined;
    const want = () => {
      isAsked = true;
      setWanted(projectId);
    };
    const stands = () => {
      if (isAsked) refetch(EVERYTHING);
      want();
    };
    return hearEvents(projectId, handlersOf(projectId, dispatch, refetch, hasUnsent), { stands, fails: want });
  }, [dispatch, projectId]);
  return { document, error };
}
