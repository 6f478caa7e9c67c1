import { readdirSync, readlinkSync } from 'node:fs';
import { expect, it } from 'vitest';
import { residentBytes } from './memoryBound.ts';

it('what a process holds is told as the process itself tells it', async () => {
  const before = process.memoryUsage.rss();
  const told = await residentBytes(process.pid);
  const after = process.memoryUsage.rss();
  const SOME = 64 * 2 ** 20;
  expect(told).toBeGreaterThan(Math.min(before, after) - SOME);
  expect(told).toBeLessThan(Math.max(before, after) + SOME);
});
it('is refused of one that is not there', async () => {
  // past the largest number that a process can have (proc(5), pid_max)
  await expect(residentBytes(2 ** 22 + 1)).rejects.toThrow();
});
it('keeps nothing open that could be closed when it has become another’s', async () => {
  for (let k = 0; k < 3; k++) await residentBytes(process.ppid);
  const open = readdirSync('/proc/self/fd').map((fd) => {
    try {
      return readlinkSync(`/proc/self/fd/${fd}`);
    } catch {
      // that of the listing itself
      return '';
    }
  });
  expect(open.filter((path) => path.startsWith(`/proc/${process.ppid}/`))).toEqual([]);
});
