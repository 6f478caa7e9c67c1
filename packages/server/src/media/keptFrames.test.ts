import { describe, expect, it } from 'vitest';
import type { CodePicture } from '@mellow/core';
import { KeptFrames } from './keptFrames.ts';

const FRAME_BYTES = 6;
const COUNT = 5;
const frame = (value: number): CodePicture => {
  const plane = () => Uint16Array.of(value);
  return { width: 1, height: 1, r: plane(), g: plane(), b: plane() };
};
/** Footage whose frames are told by their number; from which ones it was decoded is written down. */
function footage(first = 0) {
  const decodedFrom: number[] = [];
  async function* decode(from: number) {
    decodedFrom.push(from);
    for (let at = from; at < COUNT; at++) yield await Promise.resolve(frame(first + at));
  }
  return { decodedFrom, decode };
}
/** The numbers of the first frames that somebody takes, who wants no more then. */
async function taken(kept: KeptFrames, what: string, of: ReturnType<typeof footage>, most = COUNT, count = COUNT) {
  const numbers: number[] = [];
  for await (const { r } of kept.frames(what, count, of.decode)) {
    numbers.push(r[0]!);
    if (numbers.length === most) break;
  }
  return numbers;
}
const ALL = [0, 1, 2, 3, 4];

describe('Frames that are wanted again', () => {
  it('are decoded once', async () => {
    const [kept, of] = [new KeptFrames(100 * FRAME_BYTES), footage()];
    expect(await taken(kept, 'a', of)).toEqual(ALL);
    expect(await taken(kept, 'a', of)).toEqual(ALL);
    expect(await taken(kept, 'a', of, COUNT, 2)).toEqual([0, 1]);
    expect(of.decodedFrom).toEqual([0]);
  });
  it('are decoded from where somebody stopped, or where there was no room', async () => {
    const [kept, of] = [new KeptFrames(4 * FRAME_BYTES), footage()];
    expect(await taken(kept, 'a', of, 2)).toEqual([0, 1]);
    expect(await taken(kept, 'a', of)).toEqual(ALL);
    expect(await taken(kept, 'a', of)).toEqual(ALL);
    expect(of.decodedFrom).toEqual([0, 2, 4]);
  });
  it('are let go where others were wanted later, those first that were not wanted for the longest', async () => {
    const kept = new KeptFrames(2 * COUNT * FRAME_BYTES);
    const [a, b, c] = [footage(), footage(10), footage(20)];
    for (const [what, of] of [
      ['a', a],
      ['b', b],
      ['a', a],
      ['c', c],
      ['a', a],
    ] as const)
      await taken(kept, what, of);
    expect(await taken(kept, 'b', b)).toEqual([10, 11, 12, 13, 14]);
    expect([a, b, c].map(({ decodedFrom }) => decodedFrom.length)).toEqual([1, 2, 1]);
  });
  it('stay where one who began before them stops early', async () => {
    const [kept, of] = [new KeptFrames(100 * FRAME_BYTES), footage()];
    const slow = kept.frames('a', COUNT, of.decode);
    await slow.next();
    await taken(kept, 'a', of);
    await slow.return(undefined);
    expect(await taken(kept, 'a', of)).toEqual(ALL);
    expect(of.decodedFrom).toEqual([0, 0]);
  });
  it('are decoded anew when all were let go', async () => {
    const [kept, of] = [new KeptFrames(100 * FRAME_BYTES), footage()];
    await taken(kept, 'a', of);
    kept.clear();
    await taken(kept, 'a', of);
    expect(of.decodedFrom).toEqual([0, 0]);
  });
});
