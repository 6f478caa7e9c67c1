import { useMemo } from 'react';
import type { Note } from '@mellow/contract';
import { useNotesQuery } from '../data/reviews.ts';
import type { InHand } from './inHand.ts';
import { openNotes } from './reviewed.ts';

const NONE: Note[] = [];
/** Notes on the shot in hand that are still to be seen to: the frames they are on, and those on the frame in hand. */
export function useOpenNotes(
  { document, shot, colourwayId }: Pick<InHand, 'document' | 'shot' | 'colourwayId'>,
  frame: number,
): { noted: readonly number[]; onFrame: readonly Note[] } {
  const { data: notes = NONE } = useNotesQuery(document.project.value.id);
  const open = useMemo(() => openNotes(notes, shot?.id, colourwayId), [notes, shot?.id, colourwayId]);
  const noted = useMemo(() => open.map((n) => n.frame), [open]);
  const onFrame = useMemo(() => open.filter((n) => n.frame === frame), [open, frame]);
  return { noted, onFrame };
}
