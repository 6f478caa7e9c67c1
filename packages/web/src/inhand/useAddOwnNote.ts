import type { NewNote, NoteId } from '@mellow/contract';
import { useNotices } from '../app/Notices.tsx';
import { problemText } from '../data/requests.ts';
import { useAddNoteMutation } from '../data/reviews.ts';

/** Whose a note of the house is where nobody signs in; where people do, the server knows whose. */
const WHO = 'colorist';

/** Writes notes of the house; gives true when one is kept. */
export function useAddOwnNote(projectId: string) {
  const [addNote] = useAddNoteMutation();
  const { message } = useNotices();
  return async (on: Pick<NewNote, 'shotId' | 'colourwayId' | 'frame' | 'spot'>, text: string): Promise<boolean> => {
    const id = crypto.randomUUID() as NoteId;
    const { error } = await addNote({ projectId, id, who: WHO, text, drawing: [], ...on });
    if (error) void message.error(problemText(error), 8);
    return error === undefined;
  };
}
