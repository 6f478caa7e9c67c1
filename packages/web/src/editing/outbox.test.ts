// The outbox against a fake server: away, broken, refusing, stale; and two pages at once.
import { describe, expect, it, vi } from 'vitest';
import type { ChangeAnswer } from '@mellow/contract';
import { Outbox, pagesWithEdits, type Outcome, type OutboxOptions, type Unsent } from './outbox.ts';

/** A Storage over a map, with the little that is used of it. */
class Kept {
  readonly map = new Map<string, string>();
  isFull = false;
  get length() {
    return this.map.size;
  }
  key = (i: number) => [...this.map.keys()][i] ?? null;
  getItem = (k: string) => this.map.get(k) ?? null;
  removeItem = (k: string) => void this.map.delete(k);
  setItem = (k: string, v: string) => {
    if (this.isFull) throw new DOMException('full', 'QuotaExceededError');
    this.map.set(k, v);
  };
}
const saved = { kind: 'saved', answer: { seq: 1 } as ChangeAnswer } as const;
const edit = (n: number): Unsent => ({
  projectId: 'p',
  request: { id: `change-${n}`, label: `Edit ${n}`, edits: [] } as never,
});

/** A server that answers as told, edit by edit; what it has saved, in order. */
function server(answer: (unsent: Unsent, tries: number) => Outcome = () => saved) {
  const [tries, store] = [new Map<string, number>(), [] as string[]];
  const send = async (unsent: Unsent) => {
    const id = unsent.request.id;
    tries.set(id, (tries.get(id) ?? 0) + 1);
    const outcome = answer(unsent, tries.get(id)!);
    if (outcome.kind === 'saved') store.push(id);
    return outcome;
  };
  return { send, store, tries };
}
const open = (send: OutboxOptions['send'], more: Partial<OutboxOptions> = {}) => {
  const storage = (more.storage ?? new Kept()) as Kept;
  return { storage, outbox: new Outbox({ storage, pageId: 'page', send, pauseMs: 1, ...more }) };
};

describe('edits', () => {
  it('are sent in order, one after another, and each is told when it is saved', async () => {
    const { send, store } = server();
    const onSaved = vi.fn();
    const { outbox, storage } = open(send, { onSaved });
    outbox.add(edit(1));
    outbox.add(edit(2), edit(3));
    await outbox.run();
    expect(store).toEqual(['change-1', 'change-2', 'change-3']);
    expect(onSaved.mock.calls.map(([u]) => (u as Unsent).request.id)).toEqual(store);
    expect([outbox.waiting, storage.map.size]).toEqual([[], 0]);
  });
  it('that were not acknowledged are there again when the page is opened again', async () => {
    const storage = new Kept();
    const first = new Outbox({ storage, pageId: 'page', send: () => new Promise(() => undefined) });
    first.add(edit(1), edit(2));
    const { send, store } = server();
    const again = new Outbox({ storage, pageId: 'page', send });
    expect(again.waiting.map((w) => w.request.id)).toEqual(['change-1', 'change-2']);
    await again.run();
    expect(store).toEqual(['change-1', 'change-2']);
  });
  it('wait while the server is away, however long, and then go out in order', async () => {
    let isAway = true;
    const states: string[] = [];
    const { send, store, tries } = server(() => (isAway ? { kind: 'away' } : saved));
    const { outbox } = open(send, { onState: (s) => states.push(s) });
    outbox.add(edit(1), edit(2));
    await vi.waitUntil(() => (tries.get('change-1') ?? 0) > 7, 5000);
    expect([store, outbox.aside]).toEqual([[], []]);
    expect(states.at(-1)).toBe('offline');
    isAway = false;
    await outbox.run();
    expect([store, states.at(-1)]).toEqual([['change-1', 'change-2'], 'saved']);
  });
  it('the server breaks over are tried five times, put aside with the reason, and let later ones through', async () => {
    const { send, store, tries } = server((u) =>
      u.request.id === 'change-1' ? { kind: 'failed', reason: 'an unexpected error' } : saved,
    );
    const onAside = vi.fn();
    const { outbox } = open(send, { onAside });
    outbox.add(edit(1), edit(2));
    await outbox.run();
    expect([tries.get('change-1'), store]).toEqual([5, ['change-2']]);
    expect(outbox.aside).toMatchObject([{ reason: 'an unexpected error', request: { label: 'Edit 1' } }]);
    expect(onAside.mock.calls[0]![1]).toMatchObject({ request: { id: 'change-1' } });
  });
  it('that failed now and then but went through at last are not put aside', async () => {
    const { send, store } = server((_, tries) =>
      tries < 5 ? { kind: tries % 2 ? 'failed' : 'away', reason: 'x' } : saved,
    );
    const { outbox } = open(send);
    outbox.add(edit(1));
    await outbox.run();
    expect([store, outbox.aside]).toEqual([['change-1'], []]);
  });
  it('that are refused (stale, out of range) are put aside at once', async () => {
    const { send, tries } = server(() => ({ kind: 'refused', reason: 'has changed since it was read' }));
    const { outbox, storage } = open(send);
    outbox.add(edit(1));
    await outbox.run();
    expect([tries.get('change-1'), outbox.aside.length]).toEqual([1, 1]);
    // seen again after a reload
    expect(open(send, { storage }).outbox.aside[0]!.reason).toContain('has changed');
  });
  it('put aside can be tried again, or forgotten', async () => {
    let refuses = true;
    const { send, store } = server(() => (refuses ? { kind: 'refused', reason: 'no' } : saved));
    const { outbox } = open(send);
    outbox.add(edit(1), edit(2));
    await outbox.run();
    outbox.dismiss('change-1');
    expect(outbox.aside.map((a) => a.request.id)).toEqual(['change-2']);
    refuses = false;
    outbox.tryAgain();
    await outbox.run();
    expect([store, outbox.aside]).toEqual([['change-2'], []]);
    outbox.dismiss();
  });
  it('made just as the last one was saved are sent too', async () => {
    const { send, store } = server();
    let isFirst = true;
    const { outbox } = open(send, {
      onState: (state) => {
        if (state !== 'saved' || !isFirst) return;
        isFirst = false;
        outbox.add(edit(2));
      },
    });
    outbox.add(edit(1));
    await vi.waitFor(() => expect(store).toEqual(['change-1', 'change-2']));
  });
  it('one of those put aside is tried again by itself', async () => {
    let isRefusing = true;
    const { send, store } = server(() => (isRefusing ? { kind: 'refused', reason: 'no' } : saved));
    const { outbox } = open(send);
    outbox.add(edit(1), edit(2));
    await outbox.run();
    isRefusing = false;
    outbox.tryAgain('change-2');
    await outbox.run();
    expect([store, outbox.aside.map((a) => a.request.id)]).toEqual([['change-2'], ['change-1']]);
  });
  it('are sent though the browser’s storage is full', async () => {
    const { send, store } = server();
    const storage = new Kept();
    storage.isFull = true;
    const { outbox } = open(send, { storage });
    outbox.add(edit(1));
    await outbox.run();
    expect(store).toEqual(['change-1']);
  });
});

describe('two pages', () => {
  it('keep their edits apart, and do not take each other’s away', async () => {
    const storage = new Kept();
    const never = () => new Promise<Outcome>(() => undefined);
    const one = new Outbox({ storage, pageId: 'one', send: never });
    one.add(edit(1));
    const { send } = server();
    const two = new Outbox({ storage, pageId: 'two', send });
    two.add(edit(2));
    await two.run();
    expect(pagesWithEdits(storage)).toEqual(['one']);
    expect(new Outbox({ storage, pageId: 'one', send: never }).waiting).toHaveLength(1);
  });
  it('one takes over what the other has left behind, before its own', async () => {
    const storage = new Kept();
    new Outbox({ storage, pageId: 'gone', send: () => new Promise(() => undefined) }).add(edit(1), edit(2));
    let isAway = true;
    const { send, store } = server(() => (isAway ? { kind: 'away' } : saved));
    const here = new Outbox({ storage, pageId: 'here', send, pauseMs: 1 });
    here.add(edit(3));
    here.adopt('gone');
    isAway = false;
    await here.run();
    // the one that was already on its way goes first
    expect(store.sort()).toEqual(['change-1', 'change-2', 'change-3']);
    expect(pagesWithEdits(storage)).toEqual([]);
  });
  it('put aside into one list, and neither overwrites the other’s', async () => {
    const storage = new Kept();
    const { send } = server(() => ({ kind: 'refused', reason: 'no' }));
    const [one, two] = ['one', 'two'].map((pageId) => new Outbox({ storage, pageId, send })) as [Outbox, Outbox];
    one.add(edit(1));
    await one.run();
    two.add(edit(2));
    await two.run();
    const kept = () => new Outbox({ storage, pageId: 'three', send }).aside.map((a) => a.request.id);
    expect(kept()).toEqual(['change-1', 'change-2']);
    one.dismiss('change-1');
    expect(kept()).toEqual(['change-2']);
  });
  it('broken leavings are no leavings', () => {
    const storage = new Kept();
    storage.setItem('mellow:outbox:gone', '{"not":"a list"}');
    const here = new Outbox({ storage, pageId: 'here', send: () => Promise.resolve(saved) });
    here.adopt('gone');
    expect(here.waiting).toEqual([]);
  });
});
