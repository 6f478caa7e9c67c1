import { Button } from 'antd';
import { useState } from 'react';
import { useAppDispatch } from '../app/store.ts';
import { dialogOpened } from '../view/dialogSlice.ts';
import { answered, FIRST_STEPS, wasOffered } from './firstSteps.ts';

/** Offered once, in a place that is empty otherwise; whatever is answered, never again. */
export function FirstStepsOffer() {
  const dispatch = useAppDispatch();
  const [isOffered, setOffered] = useState(() => !wasOffered(localStorage));
  if (!isOffered) return null;
  const answer = (isTaken: boolean) => {
    answered(localStorage);
    setOffered(false);
    if (isTaken) dispatch(dialogOpened({ kind: 'firstSteps' }));
  };
  return (
    <span className="offer">
      First time here? {FIRST_STEPS.length} short steps, from a pick to a render.
      <Button size="small" type="primary" onClick={() => answer(true)}>
        Show me
      </Button>
      <Button size="small" type="text" onClick={() => answer(false)}>
        Not now
      </Button>
    </span>
  );
}
