import type { ProjectDocument } from '@mellow/contract';
import { valueOf, type PlainEdit } from './optimistic.ts';
import { rebased } from './rebased.ts';

/**
 * Edits made while a step of the history is on its way. Their hand saw the project before that step: of each what it
 * changed is laid over what the step has left, so that it neither takes the step back nor is refused for its sake.
 */
export class MadeMeanwhile {
  readonly #over = new Map<PlainEdit, PlainEdit['value'] | undefined>();

  /** Before an edit is applied to what the page shows. */
  note(document: ProjectDocument, edit: PlainEdit): void {
    this.#over.set(edit, valueOf(document, edit));
  }
  /** Before an edit is laid over the project as the server has it now: changes what it sets. */
  rebase(document: ProjectDocument, edit: PlainEdit): void {
    const over = this.#over.get(edit);
    const now = valueOf(document, edit);
    if (!over || !now || !edit.value) return;
    edit.value = rebased(over, edit.value, now);
    this.#over.set(edit, now);
  }
  /** The step is done, and the page knows what it left. */
  forget(): void {
    this.#over.clear();
  }
}
