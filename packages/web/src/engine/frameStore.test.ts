// Frames a worker holds: each loaded once, by all that it depends on.
import { expect, it, vi } from 'vitest';
import { compile, makeTables, NEUTRAL_BALANCE, NEUTRAL_RECIPE, type CodePicture } from '@mellow/core';
import { shape } from '../commands/testing.ts';
import type { FrameRef } from './frameProtocol.ts';
import { FrameStore } from './frameStore.ts';
import { SharedPictures } from './sharedPictures.ts';
import { matteBytes, mattesOf } from './stackMattes.ts';

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
  return { store: new FrameStore(makeTables(), { fetched }), fetched };
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
  const s = new FrameStore(makeTables(), { fetched });
  await expect(s.frame(ref('3'))).rejects.toThrow('gone');
  expect((await s.frame(ref('3'))).codes.r[0]).toBe(3);
});
it('lets go of what was used longest ago', async () => {
  const fetched = vi.fn((url: string) => Promise.resolve(picture(Number(url))));
  const s = new FrameStore(makeTables(), { fetched, memory: { pictures: 24 * 12, derived: 1000 } });
  for (let i = 0; i < 30; i++) await s.frame(ref(String(i)));
  await s.frame(ref('29'));
  expect(fetched).toHaveBeenCalledTimes(30);
  await s.frame(ref('0'));
  expect(fetched).toHaveBeenCalledTimes(31);
});
it('has what another has loaded, and what was prefetched', async () => {
  const { port1, port2 } = new MessageChannel();
  const [a, b] = [new SharedPictures(), new SharedPictures()];
  a.meet(port1);
  b.meet(port2);
  const fetched = vi.fn((url: string) => Promise.resolve(picture(Number(url))));
  const [own, other] = [a, b].map((shared) => new FrameStore(makeTables(), { fetched, shared }));
  const told = new Promise((resolve) => port2.addEventListener('message', resolve));
  expect(await own!.prefetch('7')).toBe(12);
  await told;
  const frames = await Promise.all([own!.frame(ref('7')), other!.frame(ref('7'))]);
  expect(frames[1].codes.r).toEqual(new Uint8Array(4).fill(7));
  expect(frames[1].codes.r.buffer).toBeInstanceOf(SharedArrayBuffer);
  expect(fetched.mock.calls.map(([url]) => url)).toEqual(['7']);
  for (const port of [port1, port2]) port.close();
});
it('lets go of what was derived from frames used longest ago, past so many bytes, but not of pictures', async () => {
  const fetched = vi.fn((url: string) => Promise.resolve(picture(Number(url))));
  const planes = 3 * 4 * 4; // three planes of four floats
  const s = new FrameStore(makeTables(), { fetched, memory: { pictures: 1000, derived: 10 * (12 + 2 * planes) } });
  const frames = [];
  for (let i = 0; i < 20; i++) {
    frames.push(await s.frame(ref(String(i))));
    expect(frames[i]!.heldBytes()).toBe(12);
    frames[i]!.oklab();
    expect(frames[i]!.heldBytes()).toBe(12 + 2 * planes);
  }
  // the frame in hand and nine before it are within the bound, what was derived from it being counted later
  expect(await s.frame(ref('11'))).toBe(frames[11]);
  expect(await s.frame(ref('9'))).not.toBe(frames[9]);
  expect(fetched).toHaveBeenCalledTimes(20);
});
it('counts mattes among it, and keeps seven frames whatever they take', async () => {
  const s = new FrameStore(makeTables(), {
    fetched: (url) => Promise.resolve(picture(Number(url))),
    memory: { pictures: 1000, derived: 100 },
  });
  const ellipse = { form: 'ellipse' as const, cx: 1, cy: 1, width: 2, height: 2, turnDeg: 0 };
  const sighting = { layers: [shape('a', { geometry: ellipse })], program: compile(NEUTRAL_RECIPE) };
  const frames = [];
  for (let i = 0; i < 9; i++) {
    const frame = await s.frame(ref(String(i)));
    const matteOf = await mattesOf(s, frame, { frame: ref(String(i)), sightings: [], index: 0 });
    matteOf(sighting, 0);
    expect(matteBytes(frame)).toBe(16);
    frames.push(frame);
  }
  expect(await s.frame(ref('2'))).toBe(frames[2]);
  expect(await s.frame(ref('1'))).not.toBe(frames[1]);
});
