import type { Job } from '@mellow/contract';

/** Seconds a running job still takes at the pace it has had; undefined before it has a pace. */
export function secondsLeft({ startedAt, done, total }: Job, now: number): number | undefined {
  if (startedAt === null || done < 2 || total <= 0) return undefined;
  const perStep = (now - Date.parse(startedAt)) / done;
  return Math.max(Math.ceil((perStep * (total - done)) / 1000), 0);
}
