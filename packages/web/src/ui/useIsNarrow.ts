import { useEffect, useState, type RefObject } from 'react';

/** Is an element narrower than this, px? */
export function useIsNarrow(element: RefObject<HTMLElement | null>, width: number): boolean {
  const [isNarrow, setNarrow] = useState(false);
  useEffect(() => {
    const own = element.current;
    if (!own) return;
    const watch = new ResizeObserver(() => setNarrow(own.clientWidth < width));
    watch.observe(own);
    return () => watch.disconnect();
  }, [element, width]);
  return isNarrow;
}
