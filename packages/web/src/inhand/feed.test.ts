import { expect, it, vi } from 'vitest';
import { Feed } from './feed.ts';

it('tells those who listen of each new value, and no longer when they have ended it', () => {
  const feed = new Feed(0);
  const [first, second] = [vi.fn(), vi.fn()];
  const endFirst = feed.subscribe(first);
  feed.subscribe(second);
  feed.publish(2);
  endFirst();
  feed.publish(3);
  expect([first.mock.calls.length, second.mock.calls.length, feed.newest()]).toEqual([1, 2, 3]);
});

it('tells nobody of a value that is there already, not even of one that is no number', () => {
  const feed = new Feed(NaN);
  const listener = vi.fn();
  feed.subscribe(listener);
  feed.publish(NaN);
  expect(listener).not.toHaveBeenCalled();
});
