import { expect, it } from 'vitest';
import type { CodePicture } from '@mellow/core';
import { withAround } from './window.ts';

const picture = (n: number): CodePicture => ({
  width: 1,
  height: 1,
  r: new Uint8Array([n]),
  g: new Uint8Array([n]),
  b: new Uint8Array([n]),
});
async function* pictures(count: number): AsyncGenerator<CodePicture> {
  for (let n = 0; n < count; n++) yield picture(n);
}
async function windows(count: number, reach: number) {
  const asked: number[] = [];
  const out: { at: number; near: [number, number][] }[] = [];
  for await (const frame of withAround(pictures(count), reach, async (at) => {
    asked.push(at);
    return { sightings: [], plates: {}, carried: {} };
  })) {
    expect(frame.codes.r[0]).toBe(frame.at);
    out.push({ at: frame.at, near: (frame.around ?? []).map((a) => [a.off, a.frame.codes.r[0]!]) });
  }
  return { asked, out };
}

it('gives every frame once, in order, with those around it as far as the shot goes', async () => {
  const { asked, out } = await windows(5, 2);
  expect(asked).toEqual([0, 1, 2, 3, 4]);
  expect(out.map((w) => w.at)).toEqual([0, 1, 2, 3, 4]);
  expect(out.map((w) => w.near.map(([off]) => off))).toEqual([
    [1, 2],
    [-1, 1, 2],
    [-2, -1, 1, 2],
    [-2, -1, 1],
    [-2, -1],
  ]);
  for (const { at, near } of out) for (const [off, frame] of near) expect(frame).toBe(at + off);
});
it('leaves the frames around out when none is wanted, and copes with a shot shorter than its reach', async () => {
  expect((await windows(3, 0)).out.every((w) => w.near.length === 0)).toBe(true);
  expect((await windows(1, 3)).out).toEqual([{ at: 0, near: [] }]);
  expect((await windows(0, 3)).out).toEqual([]);
});
