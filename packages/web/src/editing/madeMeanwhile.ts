import type { ProjectDocument } from '@mellow/contract';
import { valueOf, type PlainEdit } from './optimistic.ts';
import { NothingToChange, rebased } from './rebased.ts';

/**
 * Edits made while a step of the history is on its way. Their hand saw the project before that step: of each what it
 * changed is laid over what the step has left, so that it does not take the step back; it is refused only where what it
 * changes a part of is gone.
 */
export class MadeMeanwhile {
  readonly #lost = new WeakSet<PlainEdit>();
  readonly #over = new Map<PlainEdit, PlainEdit['value'] | undefined>();

  /** Before an edit is applied to what the page shows. */
  note(document: ProjectDocument, edit: PlainEdit): void {
    this.#over.set(edit, valueOf(document, edit));
  }
  /** Before an edit is laid over the project as the server has it now: changes what it sets. */
  rebase(document: ProjectDocument, edit: PlainEdit): void {
    if (!this.#over.has(edit)) return;
    const now = valueOf(document, edit);
    try {
      edit.value = rebased(this.#over.get(edit) ?? null, edit.value, now ?? null);
      this.#over.set(edit, now);
    } catch (error) {
      if (!(error instanceof NothingToChange)) throw error;
      this.#lost.add(edit);
    }
  }
  /** Is what an edit changes a part of gone with the step? */
  isLost(edit: PlainEdit): boolean {
    return this.#lost.has(edit);
  }
  /** The step is done, and the page knows what it left. */
  forget(): void {
    this.#over.clear();
  }
}
