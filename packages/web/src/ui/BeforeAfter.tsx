import { useRef, type PointerEvent } from 'react';

interface Props {
  before: string | undefined;
  after: string;
  /** Width over height. */
  aspect: number;
  label: string;
}
/** Two pictures of one place, one over the other; the pointer over them is the line between source and result. */
export function BeforeAfter({ before, after, aspect, label }: Props) {
  const box = useRef<HTMLSpanElement>(null);
  const wipe = (e: PointerEvent) => {
    const { left, width } = box.current!.getBoundingClientRect();
    const share = Math.min(Math.max((e.clientX - left) / width, 0), 1);
    box.current!.style.setProperty('--wipe', `${(100 * share).toFixed(1)}%`);
  };
  const leave = () => box.current!.style.setProperty('--wipe', '0%');
  return (
    <span
      ref={box}
      className="before-after"
      style={{ aspectRatio: aspect }}
      onPointerMove={wipe}
      onPointerLeave={leave}
    >
      <img alt={label} src={after} loading="lazy" />
      {before && <img className="before" alt="" src={before} loading="lazy" />}
    </span>
  );
}
