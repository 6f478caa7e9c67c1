// A render thread that ends takes its own frame along and nothing else.
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, expect, it } from 'vitest';
import type { RenderTask } from './renderProtocol.ts';
import { RenderPool } from './renderPool.ts';

const folder = mkdtempSync(join(tmpdir(), 'mellow-pool-'));
const thread = join(folder, 'thread.mjs');
// the scale of a task says what becomes of it: 0 ends the thread, −1 throws, else the first red code comes back doubled
writeFileSync(
  thread,
  `export default ({ scale, codes }) => {
     if (scale === 0) process.exit(3);
     if (scale === -1) throw new Error('this frame cannot be rendered');
     return [{ parts: [codes.r.map((v) => 2 * v)], hashes: [] }];
   };`,
);
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const task = (red: number, scale = 1): RenderTask => {
  const plane = () => Uint16Array.of(red);
  const codes = { width: 1, height: 1, r: plane(), g: plane(), b: plane() };
  const packing = { as: 'planes', samples: '16 bit', isHashed: false } as const;
  return { codes, encoding: 'rec709', scale, sightings: [], colourways: [[]], plates: {}, carried: {}, packing };
};

const redOf = async (pool: RenderPool, red: number) => (await pool.render(task(red)))[0]!.parts[0]![0];

it('rejects the frame of a thread that ended, and renders all that come after it', async () => {
  const pool = new RenderPool(2, thread);
  expect(await redOf(pool, 21)).toBe(42);
  for (let k = 0; k < 4; k++) {
    await expect(pool.render(task(1, 0))).rejects.toThrow();
    expect(await redOf(pool, k + 1)).toBe(2 * (k + 1));
  }
  // while others wait
  const all = await Promise.allSettled([3, 4, 0, 5, 6, 7].map((n) => pool.render(task(n, n === 0 ? 0 : 1))));
  expect(all.map((a) => a.status)).toEqual([
    'fulfilled',
    'fulfilled',
    'rejected',
    'fulfilled',
    'fulfilled',
    'fulfilled',
  ]);
  await pool.close();
});
it('passes an error on as it was said, and keeps the thread', async () => {
  const pool = new RenderPool(1, thread);
  await expect(pool.render(task(1, -1))).rejects.toThrow('this frame cannot be rendered');
  expect(await redOf(pool, 5)).toBe(10);
  await pool.close();
});
it('moves a frame’s memory to the thread, unless frames around it need it too', async () => {
  const pool = new RenderPool(1, thread);
  const [moved, kept] = [task(1), task(1)];
  await pool.render(moved);
  await pool.render({ ...kept, around: [] });
  expect([moved.codes.r.length, kept.codes.r.length]).toEqual([0, 1]);
  await pool.close();
});
