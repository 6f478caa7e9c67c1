import { afterEach, expect, it, vi } from 'vitest';
import { breather } from './breather.ts';

afterEach(() => vi.restoreAllMocks());

it('lets others have their turn once twenty milliseconds have passed, and counts anew from there', async () => {
  const clock = vi.spyOn(performance, 'now').mockReturnValue(1000);
  const breathe = breather();
  const othersHadTurns = async (now: number): Promise<boolean> => {
    clock.mockReturnValue(now);
    let had = false;
    const other = setImmediate(() => (had = true));
    await breathe();
    clearImmediate(other);
    return had;
  };
  expect(await othersHadTurns(1019)).toBe(false);
  expect(await othersHadTurns(1020)).toBe(true);
  expect(await othersHadTurns(1039)).toBe(false);
  expect(await othersHadTurns(1041)).toBe(true);
});
