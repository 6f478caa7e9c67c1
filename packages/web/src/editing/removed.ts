import type { ChangeAnswer, ProjectDocument } from '@mellow/contract';
import { revisionOf, valueOf, type PlainEdit } from './optimistic.ts';

/**
 * Revisions of what the page has removed: the document no longer holds them when the removal is sent, and the server
 * removes only what one has seen.
 */
export class RemovedRevisions {
  readonly #known = new Map<string, number | null>();

  /** Before edits are applied: keeps the revisions of what they remove. */
  keep(document: ProjectDocument, edits: readonly PlainEdit[]): void {
    for (const { kind, id, value } of edits) if (value === null) this.#known.set(id, revisionOf(document, kind, id));
  }
  /** Earlier edits of it have been answered. */
  acknowledge({ revisions }: Pick<ChangeAnswer, 'revisions'>): void {
    for (const [id, revision] of Object.entries(revisions)) if (this.#known.has(id)) this.#known.set(id, revision);
  }
  /** The revision an edit is to be sent with: also one made before a removal that waits behind it. */
  revisionFor(document: ProjectDocument, edit: PlainEdit): number | null {
    if (valueOf(document, edit)) return revisionOf(document, edit.kind, edit.id);
    return this.#known.get(edit.id) ?? null;
  }
}
