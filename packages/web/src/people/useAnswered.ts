import { useNotices } from '../app/Notices.tsx';
import { problemText } from '../data/requests.ts';

/** Says what an answer refused; gives what it holds otherwise. */
export function useAnswered(): <T>(answer: Promise<{ data?: T; error?: unknown }>) => Promise<T | undefined> {
  const { message } = useNotices();
  return async (answer) => {
    const { data, error } = await answer;
    if (error) message.error(problemText(error), 8);
    return data;
  };
}
