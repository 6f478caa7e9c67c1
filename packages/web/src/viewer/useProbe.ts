import { useEffect, useState } from 'react';
import { throttle } from 'throttle-debounce';
import type { ProbedPixel } from '@mellow/core';
import { useAppDispatch } from '../app/store.ts';
import { frameClient } from '../engine/frameClient.ts';
import type { ShowTask } from '../engine/frameProtocol.ts';
import { FOLLOW_MS } from '../inhand/useCalmly.ts';
import { probed, type Probed } from '../view/pointedSlice.ts';
import { NewestQuestion } from './newestQuestion.ts';

type Spot = { x: number; y: number } | undefined;

/** Proxies are of 8 bits. */
const FULL = 255;
const shownPixel = ({ oklab, before, after }: ProbedPixel, column: number): Probed => {
  const [r, g, b] = (after ?? before).codes;
  return { oklab, codes: [r / FULL, g / FULL, b / FULL], column };
};

interface Question {
  at: NonNullable<Spot>;
  task: ShowTask;
  width: number | undefined;
}
const ask = ({ at, task }: Question): Promise<ProbedPixel | undefined> =>
  frameClient().askLead({ kind: 'probe', x: at.x, y: at.y, task });

/** What lies under the pointer; of a picture that changes under the hand now and then. */
export function useProbe(at: Spot, task: ShowTask | undefined, width: number | undefined) {
  const dispatch = useAppDispatch();
  const [probe, setProbe] = useState<ProbedPixel>();
  const [newest] = useState(
    () =>
      new NewestQuestion(ask, (pixel, question) => {
        setProbe(pixel);
        const column = question?.width && question.at.x / question.width;
        dispatch(probed(pixel && column !== undefined ? shownPixel(pixel, column) : null));
      }),
  );
  const [nowAndThen] = useState(() => throttle(FOLLOW_MS, (question: Question) => newest.put(question)));
  useEffect(() => {
    const question = at && task && { at, task, width };
    if (question?.task.onTheWay) return nowAndThen(question);
    nowAndThen.cancel({ upcomingOnly: true });
    newest.put(question);
  }, [newest, nowAndThen, at, task, width]);
  useEffect(() => () => nowAndThen.cancel({ upcomingOnly: true }), [nowAndThen]);
  return probe;
}
