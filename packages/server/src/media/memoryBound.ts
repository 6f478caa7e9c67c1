// A bound on all memory of a process. That of the system (setrlimit's RLIMIT_AS) does not do: at it ffmpeg cannot make
// its threads and waits for them for ever.
import type { ChildProcess } from 'node:child_process';
import { totalmem } from 'node:os';
import pidusage from 'pidusage';

/** Frames of 8K in float on eight threads take three; with the largest share two such and the system go on. */
export const MOST_BYTES = Math.max(4 * 2 ** 30, totalmem() / 4);
const LOOKED_AT_EVERY_MS = 500;

/** Kills a process once it holds more than so many bytes; `said` is told why, before. */
export function boundMemory(child: ChildProcess, mostBytes: number, said: (reason: string) => void): void {
  const timer = setInterval(() => void look().catch(stop), LOOKED_AT_EVERY_MS);
  timer.unref();
  const stop = (): void => clearInterval(timer);
  child.once('exit', stop);
  child.once('error', stop);
  const look = async (): Promise<void> => {
    const { memory } = await pidusage(child.pid!, { maxage: 2 * LOOKED_AT_EVERY_MS });
    if (memory <= mostBytes || child.exitCode !== null || child.signalCode !== null) return;
    stop();
    said(`it needs more than ${(mostBytes / 2 ** 30).toFixed(1)} GB of memory`);
    child.kill('SIGKILL');
  };
}
