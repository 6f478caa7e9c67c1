import { expect, it } from 'vitest';
import { interactive, whenQuiet } from './interactive.ts';

const open = new AbortController().signal;

it('lets work in the background go on once the last of what somebody waits for has ended, failed or not', async () => {
  const order: string[] = [];
  let endFirst = () => {};
  let failSecond = (_: Error) => {};
  const first = interactive(() => new Promise<void>((resolve) => (endFirst = resolve))).then(() => order.push('first'));
  const second = interactive(() => new Promise<void>((_, reject) => (failSecond = reject))).catch(() =>
    order.push('second'),
  );
  const quiet = whenQuiet(open).then(() => order.push('quiet'));
  endFirst();
  await first;
  failSecond(new Error('no'));
  await Promise.all([second, quiet]);
  expect(order[0]).toBe('first');
  expect(order).toContain('quiet');
  expect(order.indexOf('quiet')).toBeGreaterThan(0);
  await whenQuiet(open);
});

it('does not hold back what is being stopped', async () => {
  let end = () => {};
  const work = interactive(() => new Promise<void>((resolve) => (end = resolve)));
  const stop = new AbortController();
  const waits = whenQuiet(stop.signal);
  stop.abort();
  await waits;
  end();
  await work;
});
