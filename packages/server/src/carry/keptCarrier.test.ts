// A pass that is broken off and gone on with in another thread, as after a kill.
import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, utimesSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, expect, it } from 'vitest';
import type { CodePicture } from '@mellow/core';
import { keptCarriersFolder, openStore } from '../media/store.ts';
import { CarryThread } from './carryThread.ts';
import { clearKeptCarriers, keptCarrierPath, markOf } from './keptCarrier.ts';

const root = mkdtempSync(join(tmpdir(), 'mellow-kept-'));
const store = openStore(root);
afterAll(() => rmSync(root, { recursive: true, force: true }));

const [W, H, SIDE] = [96, 72, 30];
/** A bright chequered square that goes 3 pixels to the right each frame, over darker stripes. */
function picture(t: number): CodePicture {
  const plane = (inside: number, outside: number) =>
    Uint16Array.from({ length: W * H }, (_, i) => {
      const [x, y] = [i % W, Math.floor(i / W)];
      const [u, v] = [x - 15 - 3 * t, y - 20];
      const isIn = u >= 0 && u < SIDE && v >= 0 && v < SIDE;
      const pattern = isIn ? ((u >> 2) + (v >> 2)) % 2 : ((x >> 2) + (y >> 3)) % 3;
      return (isIn ? inside : outside) + 6000 * pattern;
    });
  return { width: W, height: H, r: plane(40_000, 12_000), g: plane(14_000, 16_000), b: plane(12_000, 20_000) };
}
const of = (t: number) => ({ codes: picture(t), encoding: 'srgb' as const, balance: undefined });
const strokes = [
  {
    sign: 'in' as const,
    widthPx: 8,
    points: [
      [22, 28],
      [38, 42],
    ] as [number, number][],
    frame: 0,
  },
  {
    sign: 'out' as const,
    widthPx: 6,
    points: [
      [5, 8],
      [70, 8],
      [70, 60],
    ] as [number, number][],
    frame: 0,
  },
];

it('a pass goes on in another thread from where it kept how far it had come, to the same masks', async () => {
  const kept = { path: keptCarrierPath(store, 'run'), madeOf: markOf({ strokes }) };
  const first = new CarryThread();
  await first.setOut({ ...of(0), strokes, scale: 1, carried: [] });
  for (const t of [1, 2, 3]) await first.step(of(t));
  await first.keep({ ...kept, at: 3 });
  // what could not be written leaves nothing half-written, and the thread goes on
  mkdirSync(keptCarrierPath(store, 'taken'));
  await expect(first.keep({ ...kept, path: keptCarrierPath(store, 'taken'), at: 3 })).rejects.toThrow();
  rmSync(keptCarrierPath(store, 'taken'), { recursive: true });
  const through = await first.step(of(4));
  await first.close();
  expect(readdirSync(keptCarriersFolder(store))).toEqual(['run.carrier']);

  const second = new CarryThread();
  await expect(second.step(of(4))).rejects.toThrow('no selection has been set out from');
  expect(await second.goOn({ ...kept, madeOf: markOf({ strokes: [] }) })).toBeUndefined();
  expect(await second.goOn(kept)).toBe(3);
  const found = await second.step(of(4));
  expect(found.certainty).toBe(through.certainty);
  expect(Buffer.from(found.mask).equals(Buffer.from(through.mask))).toBe(true);

  // cut short as by a full disk: the pass sets out anew
  writeFileSync(kept.path, readFileSync(kept.path).subarray(0, 1000));
  expect(await second.goOn(kept)).toBeUndefined();
  await second.close();
});

it('what nobody has gone on with for days is cleared away, what is fresh stays', async () => {
  const [old, fresh] = ['old', 'fresh'].map((name) => keptCarrierPath(store, name)) as [string, string];
  for (const path of [old, `${old}.part`, fresh]) writeFileSync(path, 'x');
  const weekAgo = Date.now() / 1000 - 7 * 86_400;
  for (const path of [old, `${old}.part`]) utimesSync(path, weekAgo, weekAgo);
  await clearKeptCarriers(store);
  expect(readdirSync(keptCarriersFolder(store)).filter((n) => !n.startsWith('run'))).toEqual(['fresh.carrier']);
});
