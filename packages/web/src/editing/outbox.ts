import type { ChangeAnswer, ChangeRequest } from '@mellow/contract';
import pRetry, { AbortError } from 'p-retry';

/** An edit made but not yet acknowledged by the server. */
export interface Unsent {
  projectId: string;
  request: ChangeRequest;
  /** Whose it is, where people sign in: another who signs in in the same browser does not send it as theirs. */
  by?: string | undefined;
}
/** An edit that could not be saved, put aside where the user can see it. */
export interface SetAside extends Unsent {
  reason: string;
}
/**
 * What became of sending an edit. `away`: nobody answered, or the database is gone; `failed`: the server broke over it.
 */
export type Outcome =
  | { kind: 'saved'; answer: ChangeAnswer }
  | { kind: 'refused'; reason: string }
  | { kind: 'failed'; reason: string }
  | { kind: 'away' };

/** An edit the server breaks over is tried this often, then put aside, so that later ones get through. */
const MOST_FAILURES = 5;
const FIRST_PAUSE_MS = 500;
const LONGEST_PAUSE_MS = 8000;

type Store = Pick<Storage, 'getItem' | 'setItem' | 'removeItem'>;
const readList = <T>(storage: Store, key: string): T[] => {
  try {
    const list: unknown = JSON.parse(storage.getItem(key) ?? '[]');
    return Array.isArray(list) ? (list as T[]) : [];
  } catch {
    return [];
  }
};
const PREFIX = 'mellow:outbox:';
const ASIDE = 'mellow:aside';

export interface OutboxOptions {
  storage: Store;
  /** This page's own: two pages keep their edits apart. */
  pageId: string;
  send: (unsent: Unsent) => Promise<Outcome>;
  /** Called when the list of waiting edits has changed. */
  onWaiting?: (unsent: readonly Unsent[]) => void;
  onState?: (state: 'saved' | 'saving' | 'offline') => void;
  onSaved?: (unsent: Unsent, answer: ChangeAnswer) => void;
  onAside?: (all: SetAside[], latest: SetAside | undefined) => void;
  /** Of the first pause between tries, milliseconds; the later ones are longer. */
  pauseMs?: number;
}

/**
 * Edits on their way to the server: kept where a closed page cannot lose them, sent one after another in order. While
 * the server is away it goes on trying; what it refuses or keeps breaking over is put aside, and the rest goes on.
 */
export class Outbox {
  readonly #options: OutboxOptions;
  #waiting: Unsent[];
  #aside: SetAside[];
  #sending: Promise<void> | undefined;

  constructor(options: OutboxOptions) {
    this.#options = options;
    this.#waiting = readList(options.storage, PREFIX + options.pageId);
    this.#aside = readList(options.storage, ASIDE);
  }

  get waiting(): readonly Unsent[] {
    return this.#waiting;
  }
  get aside(): readonly SetAside[] {
    return this.#aside;
  }

  add(...unsent: Unsent[]): void {
    this.#keep([...this.#waiting, ...unsent]);
    void this.run();
  }

  /** Takes over what a page that is no longer there has left, in front of what this one has since added. */
  adopt(pageId: string): void {
    const key = PREFIX + pageId;
    const left = readList<Unsent>(this.#options.storage, key);
    // two copies for a moment: sending an edit twice does it once, losing it would not
    this.#keep([...left, ...this.#waiting]);
    this.#options.storage.removeItem(key);
    void this.run();
  }

  /** Keeps what waits as it is now: an edit of it was changed. */
  keepChanged(): void {
    this.#keep(this.#waiting);
  }

  /** Sends what waits, oldest first; resolves when nothing waits any longer. */
  run(): Promise<void> {
    this.#sending ??= this.#sendAll().finally(() => {
      this.#sending = undefined;
      // what came in just as the last was done
      if (this.#waiting.length > 0) void this.run();
    });
    return this.#sending;
  }

  /** Forgets an edit that was put aside, or all of them. */
  dismiss(changeId?: string): void {
    this.#setAside((all) => (changeId === undefined ? [] : all.filter((a) => a.request.id !== changeId)));
  }
  /** Puts an edit that was put aside back in line, or all of them. */
  tryAgain(changeId?: string): void {
    const isMeant = ({ request }: Unsent) => changeId === undefined || request.id === changeId;
    const again = this.#aside.filter(isMeant).map(({ reason: _reason, ...unsent }) => unsent);
    this.#setAside((all) => all.filter((a) => !isMeant(a)));
    this.add(...again);
  }

  async #sendAll(): Promise<void> {
    for (let next = this.#waiting[0]; next; next = this.#waiting[0]) {
      this.#options.onState?.('saving');
      const outcome = await this.#sent(next);
      // adopted edits may have come in front meanwhile
      this.#keep(this.#waiting.filter((w) => w !== next));
      if (outcome.kind === 'saved') this.#options.onSaved?.(next, outcome.answer);
      else this.#setAside((all) => [...all, { ...next, reason: outcome.reason }], true);
    }
    this.#options.onState?.('saved');
  }

  /** Tries until the edit is saved or there is no hope for it. */
  async #sent(unsent: Unsent): Promise<Extract<Outcome, { kind: 'saved' | 'refused' | 'failed' }>> {
    let failures = 0;
    let last: Outcome = { kind: 'away' };
    const attempt = async () => {
      last = await this.#options.send(unsent);
      if (last.kind === 'saved' || last.kind === 'refused') return last;
      if (last.kind === 'failed' && ++failures >= MOST_FAILURES) throw new AbortError(last.reason);
      this.#options.onState?.('offline');
      throw new Error(last.kind);
    };
    const pauses = { minTimeout: this.#options.pauseMs ?? FIRST_PAUSE_MS, maxTimeout: LONGEST_PAUSE_MS, factor: 2 };
    try {
      return await pRetry(attempt, { retries: Infinity, ...pauses });
    } catch (error) {
      return { kind: 'failed', reason: error instanceof Error ? error.message : String(error) };
    }
  }

  #keep(list: Unsent[]): void {
    this.#waiting = list;
    const key = PREFIX + this.#options.pageId;
    if (list.length === 0) this.#options.storage.removeItem(key);
    else this.#write(key, list);
    this.#options.onWaiting?.(list);
  }
  /** The list is every page's: what others have put aside stays in it, and what a full storage could not take. */
  #setAside(changed: (all: SetAside[]) => SetAside[], isNew = false): void {
    const stored = readList<SetAside>(this.#options.storage, ASIDE);
    const only = this.#aside.filter((a) => !stored.some((s) => s.request.id === a.request.id));
    const list = changed([...stored, ...only]);
    this.#aside = list;
    this.#write(ASIDE, list);
    this.#options.onAside?.(list, isNew ? list.at(-1) : undefined);
  }
  #write(key: string, list: unknown): void {
    try {
      this.#options.storage.setItem(key, JSON.stringify(list));
    } catch {
      // the browser's storage is full: the edit is still sent, it would only not outlive the page
    }
  }
}

/** Pages that have left edits behind, by the names under which they were kept. */
export const pagesWithEdits = (storage: Pick<Storage, 'length' | 'key'>): string[] =>
  Array.from({ length: storage.length }, (_, i) => storage.key(i) ?? '').flatMap((key) =>
    key.startsWith(PREFIX) ? [key.slice(PREFIX.length)] : [],
  );
