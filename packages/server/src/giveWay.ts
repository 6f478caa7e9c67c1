// Renders give way to what somebody waits for: where all cores are at work, a click waits for none of them.
import { getPriority, setPriority } from 'node:os';

/** A third of the processor's time of those who do not give way, where both want it (sched(7), nice values). */
export const GIVES_WAY = 5;
/** What gives way more already is left so: only who may do anything could set it back. */
const givenWay = (pid: number) => Math.max(getPriority(pid), GIVES_WAY);

/** Lets a process of ours give way, all of its threads that are begun from now on too. */
export function letGiveWay(pid: number): void {
  try {
    setPriority(pid, givenWay(pid));
  } catch {
    // it has ended already
  }
}
/**
 * The thread that calls it gives way, alone: on Linux each thread has a nice value of its own (setpriority(2)); where
 * it would be the whole process, nothing is done.
 */
export function giveWay(): void {
  if (process.platform === 'linux') setPriority(0, givenWay(0));
}
