import type { Note } from '@mellow/contract';
import { useAppSelector } from '../app/store.ts';

interface Props {
  isPinned: boolean;
  /** A layer shown alone. */
  soloName: string | undefined;
  /** The table that is only looked through. */
  viewTable: string | undefined;
  /** What is noted on the frame. */
  notes: readonly Note[];
}

/** Says under the picture what is not as it will be rendered. */
export function ViewNote({ isPinned, soloName, viewTable, notes: written }: Props) {
  const lift = useAppSelector((s) => s.look.exposureStops);
  const isMoving = useAppSelector((s) => Object.keys(s.draft).length > 0);
  const notes = [
    ...written.map(({ who, text }) => `${who}: ${text}`),
    isPinned && 'track held still',
    isMoving && 'live',
    soloName && `only ${soloName}`,
    viewTable && `seen through ${viewTable}`,
    lift !== 0 && `view ${lift > 0 ? '+' : ''}${lift.toFixed(1)} stops`,
  ].filter(Boolean);
  const said = notes.join(' · ');
  return (
    <span className="view-note shorten" role="status" title={said}>
      {said}
    </span>
  );
}
