// What the server tells while it works, taken into the lists that the page already has.
import type { CarriedNews, Job, RunResult } from '@mellow/contract';

/** Takes what is told of a job into the list, newest first, in place, unless something later was told before. */
export function withJob(jobs: Job[], job: Job): void {
  const at = jobs.findIndex((j) => j.id === job.id);
  if (at < 0) jobs.unshift(job);
  else if (jobs[at]!.revision <= job.revision) jobs[at] = job;
}

/**
 * Takes a frame that a selection was just carried to into what is known of its pass, in place; false where one before
 * it was missed.
 */
export function addCarried(carried: Record<string, number[]>, { runId, count, certainty }: CarriedNews): boolean {
  const known = (carried[runId] ??= []);
  if (count > known.length + 1) return false;
  if (count === known.length + 1) known.push(certainty);
  return true;
}

/** Takes frames just found into what is known of their run, in place. */
export function addFound(runs: RunResult[], { runId, frames, stopped }: RunResult): void {
  const run = runs.find((r) => r.runId === runId);
  if (!run) return void runs.push({ runId, frames, stopped });
  for (const frame of frames) {
    const at = run.frames.findIndex((f) => f.frame >= frame.frame);
    if (at < 0) run.frames.push(frame);
    else run.frames.splice(at, run.frames[at]!.frame === frame.frame ? 1 : 0, frame);
  }
  run.stopped = stopped;
}
