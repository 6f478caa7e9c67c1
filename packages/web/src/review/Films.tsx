import { useRef, type CSSProperties, type PointerEvent, type ReactNode, type RefObject } from 'react';
import { isWiped, type Film, type Mode } from './filmsShown.ts';

interface Props {
  box: RefObject<HTMLDivElement | null>;
  films: readonly Film[];
  mode: Mode;
  /** Width over height. */
  aspect: number;
  /** The colourway that is judged. */
  colourwayId: string;
  /** Lies over its picture. */
  children: ReactNode;
}
const WAITING = { queued: 'waiting to be rendered', running: 'being rendered', done: '' };
const whyNone = ({ state }: Film['file']): string =>
  state === 'failed' || state === 'cancelled' ? 'not rendered' : WAITING[state];

/** The films that are compared: one over the other with a line between them, or all beside each other. */
export function Films({ box, films, mode, aspect, colourwayId, children }: Props) {
  const columns = Math.ceil(Math.sqrt(films.length));
  const style = { '--aspect': aspect, '--columns': columns } as CSSProperties;
  return (
    <div ref={box} className={isWiped(mode) ? 'films wiped' : 'films beside'} style={style}>
      {films.map((film, i) => (
        <figure key={film.key} className={isWiped(mode) && i > 0 ? 'before' : ''}>
          {film.address ? (
            <video src={film.address} aria-label={film.label} muted playsInline preload="auto" />
          ) : (
            <span className="empty">{whyNone(film.file)}</span>
          )}
          <figcaption>{film.label}</figcaption>
          {!isWiped(mode) && film.file.colourwayId === colourwayId && children}
        </figure>
      ))}
      {isWiped(mode) && children}
      {isWiped(mode) && films.length > 1 && <WipeLine what={films[1]!.label} />}
    </div>
  );
}

/** The line between what was before, left of it, and the result. */
function WipeLine({ what }: { what: string }) {
  const line = useRef<HTMLDivElement>(null);
  const set = (percent: number) => {
    const within = Math.min(Math.max(percent, 0), 100);
    line.current!.parentElement!.style.setProperty('--wipe', `${within.toFixed(1)}%`);
    line.current!.setAttribute('aria-valuenow', within.toFixed(0));
  };
  const drag = (e: PointerEvent) => {
    if (e.buttons !== 1) return;
    const { left, width } = line.current!.parentElement!.getBoundingClientRect();
    set((100 * (e.clientX - left)) / width);
  };
  return (
    <div
      ref={line}
      className="wipe-line"
      role="slider"
      tabIndex={0}
      aria-label={`${what} up to here`}
      aria-valuemin={0}
      aria-valuemax={100}
      aria-valuenow={50}
      onPointerDown={(e) => {
        e.stopPropagation();
        e.currentTarget.setPointerCapture(e.pointerId);
      }}
      onPointerMove={drag}
      onKeyDown={(e) => {
        const by = { ArrowLeft: -5, ArrowRight: 5 }[e.key];
        if (by === undefined) return;
        e.stopPropagation();
        set(Number(line.current!.getAttribute('aria-valuenow')) + by);
      }}
    />
  );
}
