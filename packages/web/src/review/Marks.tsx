import type { PointerEventHandler } from 'react';
import type { Spot } from '@mellow/contract';
import type { Marked } from './useMarking.ts';

interface Props {
  /** What is pinned or drawn on the frame, with the number each is listed under. */
  notes: readonly (Marked & { id: string; number: number })[];
  /** What is being made. */
  draft?: Marked;
  onPointerDown?: PointerEventHandler;
  onPointerMove?: PointerEventHandler;
  onPointerUp?: PointerEventHandler;
}
const points = (line: readonly Spot[]): string => line.map(([x, y]) => `${x},${y}`).join(' ');
const at = ([x, y]: Spot) => ({ left: `${100 * x}%`, top: `${100 * y}%` });

/** Pins and lines over a picture. */
export function Marks({ notes, draft, ...hand }: Props) {
  const all = draft ? [...notes, { ...draft, id: 'draft', number: 0 }] : notes;
  return (
    <div className="marks" {...hand}>
      <svg viewBox="0 0 1 1" preserveAspectRatio="none" aria-hidden>
        {all.flatMap((note) =>
          note.drawing.map((line, i) => [
            <polyline key={`${note.id} ${i} under`} className="under" points={points(line)} />,
            <polyline key={`${note.id} ${i}`} points={points(line)} />,
          ]),
        )}
      </svg>
      {all.map(({ id, number, spot }) =>
        spot ? (
          <span key={id} className="pin" style={at(spot)}>
            {number || '•'}
          </span>
        ) : null,
      )}
    </div>
  );
}
