import type { Media, Reading } from '@mellow/contract';
import { useAppDispatch } from '../../app/store.ts';
import { readFootage, readingOf } from '../../commands/readFootage.ts';
import { api, useReadMediaMutation } from '../../data/api.ts';
import { documentOf, edit, tellProblem } from '../../editing/editing.ts';

/** Has all shots of a footage read in another way; `isBusy` until the server has it. */
export function useReading(projectId: string, media: Media) {
  const dispatch = useAppDispatch();
  const [readMedia, { isLoading: isBusy }] = useReadMediaMutation();
  const change = async (changed: Partial<Reading>) => {
    const now = await readMedia({ projectId, mediaId: media.id, ...readingOf(media), ...changed }).unwrap();
    // the project knows of it and of its frames before a shot is put on it
    const known = { forceRefetch: true, subscribe: false };
    await dispatch(api.endpoints.getProject.initiate(projectId, known)).unwrap();
    const document = documentOf(projectId);
    if (document) edit(projectId, readFootage(document, media, now));
  };
  return { isBusy, read: (changed: Partial<Reading>) => void change(changed).catch(tellProblem) };
}
