import { expect, it, vi } from 'vitest';
import { cubeOf, NEUTRAL_CDL } from '@mellow/core';
import { Looks } from './looks.ts';

it('a table is fetched once for all frames seen through it', async () => {
  const cube = cubeOf('Same', 2, () => undefined);
  const fetched = vi.fn(() => Promise.resolve(cube));
  const looks = new Looks(fetched);
  const [first, second] = await Promise.all([looks.look({ tableUrl: '/a' }), looks.look({ tableUrl: '/a' })]);
  expect([first.table, second.table, fetched.mock.calls]).toEqual([cube, cube, [['/a']]]);
});
it('a look without a table asks for none; one that cannot be fetched is told', async () => {
  const fetched = vi.fn(() => Promise.reject(new Error('gone')));
  const looks = new Looks(fetched);
  expect(await looks.look({ cdl: NEUTRAL_CDL })).toEqual({ cdl: NEUTRAL_CDL, table: undefined });
  await expect(looks.look({ tableUrl: '/a' })).rejects.toThrow('gone');
});
