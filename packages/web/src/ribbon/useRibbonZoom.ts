import { useEffect, useState, type RefObject } from 'react';

const MOST = 24;
/** How much a turn of the wheel zooms, per unit. */
const PER_UNIT = 0.002;

/**
 * How many times longer than its place the reel is drawn: 1 is the whole reel. The wheel goes along it; with Ctrl (or a
 * pinch) or Alt it zooms at the pointer.
 */
export function useRibbonZoom(nav: RefObject<HTMLElement | null>): number {
  const [zoom, setZoom] = useState(1);
  useEffect(() => {
    const own = nav.current;
    if (!own) return;
    const turn = (e: WheelEvent) => {
      e.preventDefault();
      const along = Math.abs(e.deltaX) > Math.abs(e.deltaY) ? e.deltaX : e.deltaY;
      if (!e.ctrlKey && !e.altKey) return void (own.scrollLeft += along);
      const at = e.clientX - own.getBoundingClientRect().left;
      const share = (own.scrollLeft + at) / own.scrollWidth;
      setZoom((was) => Math.min(Math.max(was * Math.exp(-along * PER_UNIT), 1), MOST));
      requestAnimationFrame(() => void (own.scrollLeft = share * own.scrollWidth - at));
    };
    own.addEventListener('wheel', turn, { passive: false });
    return () => own.removeEventListener('wheel', turn);
  }, [nav]);
  return zoom;
}
