// A tracking thread that ends says so, to who waits and to who asks later, and is not handed out again.
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { afterAll, afterEach, expect, it } from 'vitest';
import { closeReadyTrackThreads, giveBackTrackThread, takeTrackThread, TrackThread } from './trackThread.ts';

const folder = mkdtempSync(join(tmpdir(), 'mellow-thread-'));
afterEach(closeReadyTrackThreads);
afterAll(() => rmSync(folder, { recursive: true, force: true }));
function threadThat(does: string): TrackThread {
  const file = join(folder, `${Math.random().toString(36).slice(2)}.mjs`);
  writeFileSync(
    file,
    `import { parentPort } from 'node:worker_threads';\nparentPort.on('message', ({ id, kind }) => { ${does} });`,
  );
  return new TrackThread(pathToFileURL(file));
}
const step = { luma: new Uint16Array(4), holdOuts: [] };

it('rejects what waits when the thread ends without a word, and all that is asked afterwards', async () => {
  const thread = threadThat(`if (kind === 'step') process.exit(7); else parentPort.postMessage({ id, ok: true });`);
  await thread.warmUp();
  expect(thread.isAlive).toBe(true);
  const waiting = [thread.step(step), thread.step(step)];
  for (const each of waiting) await expect(each).rejects.toThrow('the tracking thread ended (7)');
  await expect(thread.step(step)).rejects.toThrow('ended');
  expect(thread.isAlive).toBe(false);
});
it('rejects with the error that ended it', async () => {
  const thread = threadThat(`throw new Error('out of memory, say');`);
  await expect(thread.step(step)).rejects.toThrow('out of memory, say');
});
it('is not handed out once it has ended', async () => {
  const dead = threadThat('process.exit(1)');
  await dead.warmUp().catch(() => undefined);
  await giveBackTrackThread(dead);
  const next = takeTrackThread();
  expect(next).not.toBe(dead);
  await next.close();
});
it('that dies while it stands ready is passed over', async () => {
  const doomed = threadThat('process.exit(1)');
  await giveBackTrackThread(doomed);
  await doomed.warmUp().catch(() => undefined);
  const next = takeTrackThread();
  expect(next).not.toBe(doomed);
  await next.close();
});
it('is handed out again while it lives; a spare one too many is ended', async () => {
  const [first, second] = [threadThat(''), threadThat('')];
  await giveBackTrackThread(first);
  await giveBackTrackThread(second);
  expect(takeTrackThread()).toBe(first);
  await first.close();
  await expect(second.step(step)).rejects.toThrow('ended');
});
