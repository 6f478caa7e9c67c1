import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import type { CropAnswer, CropTask } from './frameProtocol.ts';
import { PictureQueue } from './pictureQueue.ts';

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());
const task = (name: string) => ({ name }) as unknown as CropTask;
const made = (name: string) => ({ name }) as unknown as CropAnswer;
const after = (ms: number) => vi.advanceTimersByTimeAsync(ms);
/** A queue whose pictures take 100 ms each, and what was asked of it. */
function slow() {
  const asked: string[] = [];
  const queue = new PictureQueue(async (t) => {
    const { name } = t as unknown as { name: string };
    asked.push(name);
    await new Promise((done) => setTimeout(done, 100));
    if (name === 'broken') throw new Error('no proxies');
    return made(name);
  }, 1000);
  return { queue, asked };
}

it('waits until nothing has changed for a while, then makes one after the other', async () => {
  const { queue, asked } = slow();
  const got: unknown[] = [];
  queue.want(
    'a',
    () => task('a'),
    (crop) => got.push(crop),
  );
  await after(900);
  queue.want(
    'b',
    () => task('b'),
    (crop) => got.push(crop),
  );
  await after(900);
  expect(asked).toEqual([]);
  await after(150);
  expect([asked, got]).toEqual([['a'], []]);
  await after(200);
  expect([asked, got]).toEqual([
    ['a', 'b'],
    [made('a'), made('b')],
  ]);
});
it('makes only the newest that was wished for a place, and none that was taken back', async () => {
  const { queue, asked } = slow();
  queue.want(
    'a',
    () => task('old'),
    () => undefined,
  );
  queue.want(
    'a',
    () => task('new'),
    () => undefined,
  );
  queue.want(
    'b',
    () => task('b'),
    () => undefined,
  )();
  await after(2000);
  expect(asked).toEqual(['new']);
});
it('goes on after one that cannot be made', async () => {
  const { queue } = slow();
  const got: unknown[] = [];
  queue.want(
    'a',
    () => task('broken'),
    (crop) => got.push(crop),
  );
  queue.want(
    'b',
    () => task('b'),
    (crop) => got.push(crop),
  );
  await after(2000);
  expect(got).toEqual([undefined, made('b')]);
});
it('stands aside again when something changes while it works', async () => {
  const { queue, asked } = slow();
  queue.want(
    'a',
    () => task('a'),
    () => undefined,
  );
  queue.want(
    'b',
    () => task('b'),
    () => undefined,
  );
  await after(1050);
  queue.want(
    'a',
    () => task('a again'),
    () => undefined,
  );
  await after(500);
  expect(asked).toEqual(['a']);
  await after(1000);
  expect(asked).toEqual(['a', 'b', 'a again']);
});
it('puts a picture together only when its turn comes, and passes over one that has not changed', async () => {
  const { queue, asked } = slow();
  const made = vi.fn(() => undefined);
  for (let i = 0; i < 20; i++) queue.want('a', made, () => undefined);
  queue.want(
    'b',
    () => task('b'),
    () => undefined,
  );
  expect(made).not.toHaveBeenCalled();
  await after(2000);
  expect(made).toHaveBeenCalledTimes(1);
  expect(asked).toEqual(['b']);
});
