import type { NewNote, NewVerdict, NoteId } from '@mellow/contract';
import { useNotices } from '../app/Notices.tsx';
import { problemText } from '../data/requests.ts';
import { useAddReviewNoteMutation, useAddVerdictMutation } from '../data/reviews.ts';

/** Sends what a client says; what is refused is told, and is not kept. */
export function useSaying(token: string) {
  const [addNote] = useAddReviewNoteMutation();
  const [addVerdict] = useAddVerdictMutation();
  const { message } = useNotices();
  const isKept = ({ error }: { error?: unknown }): boolean => {
    if (error) void message.error(problemText(error), 8);
    return error === undefined;
  };
  return {
    note: async (note: Omit<NewNote, 'id'>) =>
      isKept(await addNote({ token, id: crypto.randomUUID() as NoteId, ...note })),
    verdict: async (verdict: Omit<NewVerdict, 'id'>) =>
      isKept(await addVerdict({ token, id: crypto.randomUUID(), ...verdict })),
  };
}
