// The round trip of a drag, from the hand to one step of the history. Read top to bottom:
//
// 1. Pointer. viewer/grips.ts: the first grip that takes a press keeps the pointer; on the picture it is the tool.
// 2. Tool. viewer/tools/*: turns places on the picture into what it holds (a shape, a rectangle, a stroke) and tells of
//    every step as 'drag' and of the end as 'done'. A number field tells the same way.
// 3. Draft. `followHand`, here: while the hand moves, a pure function of commands/ says what the document would become
//    in that one place, and it is laid over the document as a draft (view/draftSlice.ts). Nothing is sent or stored.
// 4. Picture. inhand/withDraft.ts lays the draft over the document; viewer/useShowTask.ts makes of it what is to be
//    computed; engine/frameClient.ts has the newest computed by a worker and drops what was overtaken; the viewer
//    shows it. viewer/Screening.tsx alone is rendered with every move: the thing that is held shows itself where it is
//    (ui/useHeld.ts), and the rest of the page follows when the hand rests (inhand/useCalmly.ts).
// 5. Change. `followHand`, here: when the hand lets go, a pure function of commands/ gives one named change; `edit`
//    puts it into the document at once, into the outbox and, in order, on the server (editing.ts).
import type { ProjectDocument } from '@mellow/contract';
import { store } from '../app/store.ts';
import { dragged, type Draft } from '../view/draftSlice.ts';
import type { Change } from './change.ts';
import { documentOf, edit } from './editing.ts';

export type Phase = 'drag' | 'done';

/** What a hand moves: how it is shown while it moves and what it comes to. Undefined: nothing. */
export interface Moved<T> {
  draft: (document: ProjectDocument, value: T) => Draft | undefined;
  change: (document: ProjectDocument, value: T, what: string) => Change | undefined;
}

/** Follows a hand. Both functions get the document as it stands without the draft. */
export function followHand<T>(projectId: string, moved: Moved<T>, value: T, phase: Phase, what = ''): void {
  const document = documentOf(projectId);
  if (!document) return;
  if (phase === 'drag') {
    const draft = moved.draft(document, value);
    if (draft) store.dispatch(dragged(draft));
    return;
  }
  const change = moved.change(document, value, what);
  if (change) edit(projectId, change);
}
