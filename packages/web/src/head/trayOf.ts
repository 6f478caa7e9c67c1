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
