// The frame one looks at while frames pass: scrubbed, or played. The picture, the ruler and the outlines follow every
// one of them; the rest of the page, which reads where it is from the store, follows when they rest.
import { flushSync } from 'react-dom';
import { debounce } from 'throttle-debounce';
import { within, type Span } from '@mellow/contract';
import { store } from '../app/store.ts';
import { moved } from '../view/whereSlice.ts';
import { Feed, useFeed } from './feed.ts';
import { REST_MS } from './useCalmly.ts';
import { useFrame } from './useFrame.ts';

/** A frame of a shot; `told`: where the store was last told that it is. */
interface Passing {
  shotId: string | null;
  frame: number;
  told: number;
}
const feed = new Feed<Passing | undefined>(undefined);

/** Undefined where none passes, or something else has gone elsewhere meanwhile. */
function valid(): Passing | undefined {
  const { where } = store.getState();
  const passing = feed.newest();
  return passing && passing.shotId === where.shotId && passing.told === where.frame ? passing : undefined;
}
function tell(): void {
  const now = valid();
  if (!now) return;
  feed.publish({ ...now, told: now.frame });
  store.dispatch(moved({ frame: now.frame }));
}
/** What plays rests only when it stops, however long a frame takes. */
const tellAtRest = debounce(REST_MS, () => {
  if (!store.getState().playing) tell();
});

/** What is pressed while frames pass is meant for the frame in sight: the page has it before it hears of the press. */
const beforePress = () => flushSync(tell);
const PRESSES = ['pointerdown', 'keydown'] as const;

/** The frame in sight: the one that passes, or the one in hand. */
export const frameInSight = (): number => valid()?.frame ?? store.getState().where.frame;

/** Frames pass: another is in sight than the one in hand, or will be. */
export const isPassing = (): boolean => feed.newest() !== undefined;

/** Another frame comes into sight. */
export function passFrame(frame: number): void {
  if (!isPassing()) for (const press of PRESSES) addEventListener(press, beforePress, { capture: true });
  const { shotId, frame: told } = store.getState().where;
  feed.publish({ shotId, frame, told });
  tellAtRest();
}
/** The frame in sight is the one in hand from now on. */
export function restOnFrame(): void {
  tellAtRest.cancel({ upcomingOnly: true });
  for (const press of PRESSES) removeEventListener(press, beforePress, { capture: true });
  const now = valid();
  feed.publish(undefined);
  if (now) store.dispatch(moved({ frame: now.frame }));
}

/** The frame in sight, kept inside the shot, and whether it passes. */
export function useFrameInSight(shot: { span: Span | undefined }): { frame: number; isPassing: boolean } {
  const inHand = useFrame(shot);
  const passing = useFeed(feed);
  if (!passing || !shot.span) return { frame: inHand, isPassing: false };
  return { frame: within(shot.span, passing.frame), isPassing: true };
}
