// A bound on all memory of a process. That of the system (setrlimit's RLIMIT_AS) does not do: at it ffmpeg cannot make
// its threads and waits for them for ever.
import type { ChildProcess } from 'node:child_process';
import { readFile } from 'node:fs/promises';
import { totalmem } from 'node:os';
import pidusage from 'pidusage';

/** Frames of 8K in float on eight threads take three; with the largest share two such and the system go on. */
export const MOST_BYTES = Math.max(4 * 2 ** 30, totalmem() / 4);
const LOOKED_AT_EVERY_MS = 500;

/**
 * What a process holds of the machine's memory, bytes (VmRSS of proc(5)). Rejects where there is no such process. On
 * Linux not asked of pidusage, which keeps the file open from one time to the next: where the processors are short of
 * time, 4.1.0 closes one that is read just then, keeps its number, and closes that once more, when it has long become
 * another's: a connection to a browser or to the database.
 */
export async function residentBytes(pid: number): Promise<number> {
  if (process.platform !== 'linux') return (await pidusage(pid)).memory;
  const said = /^VmRSS:\s+(\d+) kB$/m.exec(await readFile(`/proc/${pid}/status`, 'utf8'));
  // one that has ended and is not yet waited for holds nothing
  return 1024 * Number(said?.[1] ?? 0);
}

/** Kills a process once it holds more than so many bytes; `said` is told why, before. */
export function boundMemory(child: ChildProcess, mostBytes: number, said: (reason: string) => void): void {
  const timer = setInterval(() => void look().catch(stop), LOOKED_AT_EVERY_MS);
  timer.unref();
  const stop = (): void => clearInterval(timer);
  child.once('exit', stop);
  child.once('error', stop);
  const look = async (): Promise<void> => {
    const bytes = await residentBytes(child.pid!);
    if (bytes <= mostBytes || child.exitCode !== null || child.signalCode !== null) return;
    stop();
    said(`it needs more than ${(mostBytes / 2 ** 30).toFixed(1)} GB of memory`);
    child.kill('SIGKILL');
  };
}
