import { useEffect, useLayoutEffect, useRef, type RefObject } from 'react';

const STOPS = 'button:not([disabled]), a[href]';
const ON: Record<string, 1 | -1> = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 };

/** Which of a group's controls the next or the first or last one is; undefined where a key moves to none. */
export function nextStop(key: string, at: number, count: number): number | undefined {
  if (key === 'Home') return 0;
  if (key === 'End') return count - 1;
  const way = ON[key];
  return way === undefined || at < 0 ? undefined : (at + way + count) % count;
}

/**
 * Makes a group of buttons or links one stop of the Tab key: the arrows go from one to the next, and Tab comes back to
 * the one that was left, or is pressed or current (WAI-ARIA Authoring Practices, roving tabindex). Fields stay stops of
 * their own: they need the arrows.
 */
export function useRoving<T extends HTMLElement>(): RefObject<T | null> {
  const group = useRef<T>(null);
  const last = useRef<Element | undefined>(undefined);
  const stops = () => [...(group.current?.querySelectorAll<HTMLElement>(STOPS) ?? [])];
  useLayoutEffect(() => {
    const all = stops();
    const isMarked = (e: Element) => e.getAttribute('aria-pressed') === 'true' || e.hasAttribute('aria-current');
    const stop = all.find((e) => e === last.current) ?? all.find(isMarked) ?? all[0];
    for (const each of all) each.tabIndex = each === stop ? 0 : -1;
  });
  useEffect(() => {
    const own = group.current;
    if (!own) return;
    const move = (e: KeyboardEvent) => {
      const all = stops();
      const to = nextStop(e.key, all.indexOf(e.target as HTMLElement), all.length);
      // after a click the arrows are meant for the picture
      if (to === undefined || !(e.target as HTMLElement).matches(':focus-visible')) return;
      e.preventDefault();
      e.stopPropagation();
      all[to]!.focus();
    };
    const keep = (e: FocusEvent) => {
      const all = stops();
      if (!all.includes(e.target as HTMLElement)) return;
      last.current = e.target as HTMLElement;
      for (const each of all) each.tabIndex = each === last.current ? 0 : -1;
    };
    own.addEventListener('keydown', move);
    own.addEventListener('focusin', keep);
    return () => {
      own.removeEventListener('keydown', move);
      own.removeEventListener('focusin', keep);
    };
  }, []);
  return group;
}
