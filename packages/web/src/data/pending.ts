// What the page has edited and the server may not know yet. A fetch that began before an edit was saved is older than
// the page.
import type { Edit, Job, ProjectDocument, RunResult } from '@mellow/contract';
import type { Unsent } from '../editing/outbox.ts';

export interface Pending {
  /** Edits made but not acknowledged, in order. */
  unsent: readonly Unsent[];
  /** How many have been acknowledged since the page was opened, steps of the history included. */
  acknowledged: number;
  /** Called before an edit that waits is laid over the project as the server has it. */
  onLaidOver?: (document: ProjectDocument, edit: Edit) => void;
}
export const pending: Pending = { unsent: [], acknowledged: 0 };

const MOST_TOLD = 400;
/** What the server told of one thing, the last of it, in order: what was fetched may be older. */
export class Told<T> {
  #last: { number: number; news: T }[] = [];
  #count = 0;
  remember(news: T): void {
    this.#last = [...this.#last.slice(1 - MOST_TOLD), { number: ++this.#count, news }];
  }
  soFar(): number {
    return this.#count;
  }
  since(number: number): T[] {
    return this.#last.filter((told) => told.number > number).map((told) => told.news);
  }
}
export const toldTracks = new Told<RunResult>();
export const toldJobs = new Told<Job>();
