import { useAppDispatch } from '../app/store.ts';
import type { InHand } from '../inhand/inHand.ts';
import { useCommands } from '../keys/useCommands.ts';
import { moved } from '../view/whereSlice.ts';

/** Going through the reel shot by shot. */
export function useShotSteps({ document, shot }: InHand): void {
  const dispatch = useAppDispatch();
  const at = document.shots.findIndex((s) => s.value.id === shot?.id);
  const step = (by: number) => {
    const to = document.shots[at + by]?.value;
    return {
      run: () => to && void dispatch(moved({ shotId: to.id })),
      cannot: to ? undefined : 'no further shot',
    };
  };
  useCommands({ previousShot: step(-1), nextShot: step(1) });
}
