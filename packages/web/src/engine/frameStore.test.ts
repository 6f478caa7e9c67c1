// Frames a worker holds: each loaded once, by all that it depends on.
import { expect, it, vi } from 'vitest';
import { makeTables, NEUTRAL_BALANCE, type CodePicture } from '@mellow/core';
import type { FrameRef } from './frameProtocol.ts';
import { FrameStore } from './frameStore.ts';

const picture = (code: number): CodePicture => {
  const plane = () => new Uint8Array(4).fill(code);
  return { width: 2, height: 2, r: plane(), g: plane(), b: plane() };
};
const ref = (url: string, more: Partial<FrameRef> = {}): FrameRef => ({
  url,
  encoding: 'srgb',
  fullWidth: 4,
  plates: {},
  ...more,
});
function store() {
  const fetched = vi.fn((url: string) => Promise.resolve(picture(Number(url))));
  return { store: new FrameStore(makeTables(), fetched), fetched };
}

it('loads a frame once, also for two who ask at the same time', async () => {
  const { store: s, fetched } = store();
  const [a, b] = await Promise.all([s.frame(ref('128')), s.frame(ref('128'))]);
  expect(a).toBe(b);
  expect(await s.frame(ref('128'))).toBe(a);
  expect(fetched.mock.calls.map(([url]) => url)).toEqual(['128']);
  expect(a.scale).toBe(0.5);
});
it('makes another frame of the same picture in another encoding or balance, without loading it again', async () => {
  const { store: s, fetched } = store();
  const plain = await s.frame(ref('128'));
  const balanced = await s.frame(ref('128', { balance: { ...NEUTRAL_BALANCE, exposureStops: 1 } }));
  const linear = await s.frame(ref('128', { encoding: 'linear709' }));
  expect(new Set([plain, balanced, linear]).size).toBe(3);
  expect(fetched).toHaveBeenCalledTimes(1);
  expect(balanced.linear().r[0]! / plain.linear().r[0]!).toBeCloseTo(2, 4);
});
it('a frame that could not be loaded is asked for again', async () => {
  const fetched = vi.fn<(url: string) => Promise<CodePicture>>();
  fetched.mockRejectedValueOnce(new Error('gone')).mockResolvedValue(picture(3));
  const s = new FrameStore(makeTables(), fetched);
  await expect(s.frame(ref('3'))).rejects.toThrow('gone');
  expect((await s.frame(ref('3'))).codes.r[0]).toBe(3);
});
it('lets go of what was used longest ago', async () => {
  const { store: s, fetched } = store();
  for (let i = 0; i < 30; i++) await s.frame(ref(String(i)));
  await s.frame(ref('29'));
  expect(fetched).toHaveBeenCalledTimes(30);
  await s.frame(ref('0'));
  expect(fetched).toHaveBeenCalledTimes(31);
});
