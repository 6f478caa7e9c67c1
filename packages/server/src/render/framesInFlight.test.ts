import { expect, it } from 'vitest';
import { FramesInFlight } from './framesInFlight.ts';

const FRAMES = 9;
/**
 * Makes frames one after the other, `most` at once and each steadied by `reach` on either side; in which decoded
 * memory each frame lay, how many were in flight when it was added, and in which order they were written.
 */
async function run(most: number, reach: number) {
  const inFlight = new FramesInFlight(most, reach);
  const written: number[] = [];
  const memoryOf: SharedArrayBuffer[] = [];
  const writtenBefore: number[] = [];
  for (let at = 0; at < FRAMES + reach; at++) {
    // it is decoded before those that are steadied by it are made
    if (at < FRAMES) {
      writtenBefore.push(written.length);
      memoryOf.push(inFlight.decodedInto.take(6));
    }
    const next = at - reach;
    if (next < 0) continue;
    const plane = new Uint16Array(memoryOf[next]!, 0, 1);
    const file = { write: () => Promise.resolve(void written.push(next)) };
    const made = Promise.resolve([{ parts: [], hashes: [] }]);
    await inFlight.add({ codes: { width: 1, height: 1, r: plane, g: plane, b: plane }, of: [file], made });
  }
  await inFlight.end();
  return { memoryOf, written, writtenBefore };
}

it.each([
  [1, 0],
  [3, 0],
  [2, 1],
  [3, 2],
])('%d at once, steadied by %d: memory is used again when nothing looks into it any more', async (most, reach) => {
  const { memoryOf, written, writtenBefore } = await run(most, reach);
  expect(written).toEqual(memoryOf.map((_, at) => at));
  expect(new Set(memoryOf).size).toBeLessThan(FRAMES);
  for (const [at, memory] of memoryOf.entries()) {
    const before = memoryOf.lastIndexOf(memory, at - 1);
    // all that are steadied by the frame that lay there were written before another was decoded into it
    if (at > 0 && before >= 0) expect(writtenBefore[at]!).toBeGreaterThan(before + reach);
  }
});
it('fails of what a frame failed of', async () => {
  const inFlight = new FramesInFlight(0, 0);
  const plane = new Uint16Array(1);
  const made = Promise.reject(new Error('this frame cannot be rendered'));
  const frame = { codes: { width: 1, height: 1, r: plane, g: plane, b: plane }, of: [], made };
  await expect(inFlight.add(frame)).rejects.toThrow('this frame cannot be rendered');
});
