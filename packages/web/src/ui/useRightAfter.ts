import {
  startTransition,
  useEffect,
  useLayoutEffect,
  useRef,
  useState,
  type PointerEvent,
  type ReactNode,
} from 'react';
import { flushSync } from 'react-dom';

/**
 * What a hand can do to what is drawn, heard before any of it is. Not `input` and `click`: by then a field or a box has
 * changed by itself, and drawing it anew would take that back; a pointer has come before them. Keys are heard wherever
 * they are pressed.
 */
const HEARD = [
  'onPointerDownCapture',
  'onPointerUpCapture',
  'onBlurCapture',
  'onWheelCapture',
  'onDropCapture',
] as const;

/**
 * For a part of the screen that is drawn right after the rest, so that the rest follows the hand. What it shows may be
 * a moment old; what it does may not: `listening` goes on the element round it and has it drawn anew, if it is behind,
 * before it hears of an event. Without that a number typed right after another would be laid over the value from
 * before both, and the first be lost. A pointer that comes over it has it drawn anew too, so that what is pressed does
 * not move away under it; one that holds something does not: that is what the picture follows. Keys give its commands
 * wherever they are pressed: before each of them too.
 */
export function useRightAfter<T extends ReactNode | object>(newest: T) {
  const [shown, setShown] = useState(newest);
  useEffect(() => {
    startTransition(() => setShown(newest));
  }, [newest]);
  const catchUp = () => {
    if (shown !== newest) flushSync(() => setShown(newest));
  };
  const latest = useRef(catchUp);
  useLayoutEffect(() => {
    latest.current = catchUp;
  });
  useEffect(() => {
    const onKey = () => latest.current();
    document.addEventListener('keydown', onKey, true);
    return () => document.removeEventListener('keydown', onKey, true);
  }, []);
  const onPointerMoveCapture = (e: PointerEvent) => {
    if (e.buttons === 0) catchUp();
  };
  return { shown, listening: { ...Object.fromEntries(HEARD.map((name) => [name, catchUp])), onPointerMoveCapture } };
}
