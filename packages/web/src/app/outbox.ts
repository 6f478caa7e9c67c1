import type { ChangeRequest } from '@mellow/contract';

/** Edits made but not yet acknowledged by the server, in order; they outlive the page. */
export interface Unsent {
  projectId: string;
  request: ChangeRequest;
}
const KEY = 'mellow:outbox';

export function readOutbox(storage: Pick<Storage, 'getItem'>): Unsent[] {
  try {
    const list = JSON.parse(storage.getItem(KEY) ?? '[]') as unknown;
    return Array.isArray(list) ? (list as Unsent[]) : [];
  } catch {
    return [];
  }
}
export const writeOutbox = (storage: Pick<Storage, 'setItem'>, list: readonly Unsent[]): void =>
  storage.setItem(KEY, JSON.stringify(list));
