// What the tray lists of the project's jobs.
import type { Job } from '@mellow/contract';

export interface TrayJobs {
  /** Queued or running, the running first. */
  underWay: Job[];
  failed: Job[];
  /** Ended well since the page was opened, the latest first. */
  done: Job[];
}
export function trayOf(jobs: readonly Job[], since: number, putAway: readonly string[]): TrayJobs {
  const left = jobs.filter((j) => !putAway.includes(j.id));
  const endedSince = ({ finishedAt }: Job) => finishedAt !== null && Date.parse(finishedAt) >= since;
  const of = (...states: Job['state'][]) => left.filter((j) => states.includes(j.state));
  return {
    underWay: [...of('running'), ...of('queued')],
    failed: of('failed').filter(endedSince),
    done: of('done')
      .filter(endedSince)
      .sort((a, b) => Date.parse(b.finishedAt!) - Date.parse(a.finishedAt!)),
  };
}

/** Seconds a running job still takes at the pace it has had; undefined before it has a pace. */
export function secondsLeft({ startedAt, done, total }: Job, now: number): number | undefined {
  if (startedAt === null || done < 2 || total <= 0) return undefined;
  const perStep = (now - Date.parse(startedAt)) / done;
  return Math.max(Math.ceil((perStep * (total - done)) / 1000), 0);
}
