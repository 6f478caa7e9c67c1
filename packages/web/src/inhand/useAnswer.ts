import { useEffect, useState } from 'react';
import { frameClient } from '../engine/frameClient.ts';
import type { AnswerOf, Task } from '../engine/frameProtocol.ts';

interface How {
  /** The task is asked for when it has stayed the same for as long as this, ms. */
  restMs?: number;
  /** It is on the frame in hand: done where that is decoded, after the picture. */
  besides?: boolean;
}
/**
 * What a worker makes of a task: the newest answer, also while the next is on its way; undefined before the first and
 * while there is no task. A task that another has taken the place of is dropped. What cannot be made is not shown: the
 * picture says why. The task is to be the same object for as long as it says the same.
 */
export const useAnswer = <T extends Task>(task: T | undefined, how?: How): AnswerOf[T['kind']] | undefined =>
  useAnswered(task, how)?.answer;

/** The same, with the task that was answered. */
export function useAnswered<T extends Task>(
  task: T | undefined,
  { restMs = 0, besides = false }: How = {},
): { of: T; answer: AnswerOf[T['kind']] } | undefined {
  const [known, setKnown] = useState<{ of: T; answer: AnswerOf[T['kind']] }>();
  useEffect(() => {
    if (!task) return;
    const wanted = new AbortController();
    const ask = () => {
      const client = frameClient();
      const asked = besides ? client.askBesides(task, wanted.signal) : client.ask(task, wanted.signal);
      asked.then(
        (answer) => setKnown({ of: task, answer }),
        () => undefined,
      );
    };
    const timer = setTimeout(ask, restMs);
    return () => {
      clearTimeout(timer);
      wanted.abort();
    };
  }, [task, restMs, besides]);
  return task && known;
}
