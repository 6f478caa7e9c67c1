import type { PlainEdit } from './optimistic.ts';

/** What a command makes of a document and an intent: one named, undoable step. */
export interface Change {
  label: string;
  edits: PlainEdit[];
}
