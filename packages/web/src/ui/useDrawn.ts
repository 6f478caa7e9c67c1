import { useEffect, useRef, type DependencyList, type RefObject } from 'react';
import { useAppSelector } from '../app/store.ts';

/**
 * Draws on a canvas in the colours of the screen: at first, when what is drawn changes (`deps`), when the canvas has
 * another size, and when the room is made brighter or darker. `draw` sets the canvas's own size.
 */
export function useDrawn(
  canvas: RefObject<HTMLCanvasElement | null>,
  draw: (canvas: HTMLCanvasElement) => void,
  deps: DependencyList,
): void {
  const room = useAppSelector((s) => s.room);
  const newest = useRef(draw);
  useEffect(() => {
    newest.current = draw;
  });
  useEffect(() => {
    const own = canvas.current!;
    const watch = new ResizeObserver(() => newest.current(own));
    watch.observe(own);
    return () => watch.disconnect();
  }, [canvas]);
  // what is drawn is said by `deps`
  // eslint-disable-next-line react-hooks/exhaustive-deps
  useEffect(() => newest.current(canvas.current!), [canvas, room, ...deps]);
}
