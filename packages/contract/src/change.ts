import { z } from 'zod';
import { ENTITIES, EntityKind } from './kinds.ts';
import { ChangeId } from './ids.ts';

const revision = z.number().int().min(1).nullable();
const editOf = <K extends EntityKind>(kind: K) =>
  z.object({ kind: z.literal(kind), id: z.uuid(), revision, value: z.nullable(ENTITIES[kind]) });
/**
 * One step of an edit: `value` replaces the entity (null removes it) provided that its revision is still `revision`
 * (null: it does not exist yet).
 */
export const Edit = z.discriminatedUnion('kind', [
  editOf('project'),
  editOf('shot'),
  editOf('piece'),
  editOf('colourway'),
  editOf('requirement'),
  editOf('recipe'),
  editOf('sighting'),
  editOf('track'),
  editOf('version'),
  editOf('still'),
]);
export type Edit = z.infer<typeof Edit>;

/** A named, undoable step made of one or more edits; all take effect or none. `id` makes a repeat harmless. */
export const ChangeRequest = z.object({
  id: ChangeId,
  label: z.string().trim().min(1).max(200),
  edits: z.array(Edit).min(1).max(500),
});
export type ChangeRequest = z.infer<typeof ChangeRequest>;

/** One press of undo or redo; `id` makes a repeat harmless. */
export const HistoryStep = z.object({ id: ChangeId });
export type HistoryStep = z.infer<typeof HistoryStep>;

/** What undo and redo would do next. */
export const History = z.object({ undo: z.string().nullable(), redo: z.string().nullable() });
export type History = z.infer<typeof History>;

export const ChangeAnswer = z.object({
  seq: z.number().int(),
  revisions: z.record(z.uuid(), z.number().int()),
  history: History,
});
export type ChangeAnswer = z.infer<typeof ChangeAnswer>;

export const ChangeEntry = z.object({
  seq: z.number().int(),
  at: z.iso.datetime(),
  who: z.string(),
  label: z.string(),
  state: z.enum(['done', 'undone', 'abandoned']),
});
export type ChangeEntry = z.infer<typeof ChangeEntry>;
