// Processes of ffmpeg within bounds: so many at once, so long without a word, so much memory in one piece and in all,
// never longer than the process that began them.
import { spawn, spawnSync, type ChildProcess, type SpawnOptions, type StdioOptions } from 'node:child_process';
import { availableParallelism } from 'node:os';
import { setImmediate } from 'node:timers/promises';
import pLimit from 'p-limit';
import { ffmpegTurns } from './ffmpegTurns.ts';
import { boundMemory, MOST_BYTES } from './memoryBound.ts';
import type { Turn } from './turns.ts';

/** A picture of 8192 × 8192 in four floats takes half of it; what asks for more in one piece is made to burst. */
const MOST_BYTES_AT_ONCE = 2 ** 31 - 1;
/** What says nothing for so long hangs: counting the packets of hundreds of gigabytes takes minutes. */
const QUIET_MS = 15 * 60 * 1000;
/** A decoder that gives no frame for so long, or an encoder that takes none: of some footage all is decoded before. */
export const FRAMELESS_MS = 60 * 60 * 1000;
/** More threads gain nothing in one decoder, and each holds pictures of its own. */
const THREADS = Math.min(availableParallelism(), 8);
export const DECODER_THREADS = ['-threads', String(THREADS)];

const beginnings = pLimit(1);
/**
 * Comes once a process may be begun: one in a turn of the event loop. To begin one takes a server of some size 20 ms,
 * in which it answers nobody, and several are often wanted at once.
 */
const turnToBegin = (): Promise<void> => beginnings(() => setImmediate());

/** Linux ends a process with its parent where it is asked to (prctl, PR_SET_PDEATHSIG); elsewhere a pipe must do. */
let hasSetpriv: boolean | undefined;
const endsWithParent = (): boolean =>
  (hasSetpriv ??= spawnSync('setpriv', ['--pdeathsig', 'KILL', 'true']).status === 0);

/** What it is ended for stands in its standard error, as what it says itself does. */
function begin(
  program: 'ffmpeg' | 'ffprobe',
  args: readonly string[],
  options: SpawnOptions,
  mostBytes = MOST_BYTES,
): ChildProcess {
  const own = [program, '-max_alloc', String(MOST_BYTES_AT_ONCE), ...args];
  const [command, ...rest] = endsWithParent() ? ['setpriv', '--pdeathsig', 'KILL', ...own] : own;
  const child = spawn(command!, rest, options);
  boundMemory(child, mostBytes, (reason) => {
    if (child.stderr?.readable) child.stderr.push(`[error] ${reason}\n`);
  });
  return child;
}

/** Begins a process that is read from or written to as it goes on, in its turn, which it has until it has ended. */
export async function beginInTurn(
  args: readonly string[],
  stdio: StdioOptions,
): Promise<{ child: ChildProcess; turn: Turn }> {
  const turn = await ffmpegTurns.take();
  try {
    await turnToBegin();
    const child = begin('ffmpeg', args, { stdio });
    child.once('exit', turn.giveBack);
    child.once('error', (error) => {
      if (child.pid === undefined) turn.giveBack();
      if (child.stderr?.readable) child.stderr.push(`[error] ${error.message}\n`);
    });
    return { child, turn };
  } catch (error) {
    turn.giveBack();
    throw error;
  }
}

/** It said nothing for too long. */
export class Hung extends Error {
  constructor(quietMs: number) {
    super(`nothing was heard for ${Math.round(quietMs / 1000)} s`);
  }
}
/**
 * Runs a process to its end when it is its turn; `use` listens to it. Resolves with its exit code. Rejects when the
 * signal aborts, and with Hung where nothing comes from it for too long; then it is killed.
 */
export const runInTurn = (
  program: 'ffmpeg' | 'ffprobe',
  args: readonly string[],
  {
    signal,
    use,
    quietMs = QUIET_MS,
    mostBytes,
  }: {
    signal?: AbortSignal | undefined;
    use: (child: ChildProcess) => void;
    quietMs?: number;
    mostBytes?: number;
  },
): Promise<number | null> =>
  ffmpegTurns.run(async () => {
    await turnToBegin();
    return new Promise((resolve, reject) => {
      signal?.throwIfAborted();
      const stop = signal && { signal, killSignal: 'SIGKILL' as const };
      const child = begin(program, args, { stdio: ['ignore', 'pipe', 'pipe'], ...stop }, mostBytes);
      const hung = () => {
        child.kill('SIGKILL');
        reject(new Hung(quietMs));
      };
      let timer = setTimeout(hung, quietMs);
      const heard = () => {
        clearTimeout(timer);
        timer = setTimeout(hung, quietMs);
      };
      child.stdout?.on('data', heard);
      child.stderr?.on('data', heard);
      use(child);
      child.on('error', (error) => {
        clearTimeout(timer);
        reject(error);
      });
      child.on('close', (code) => {
        clearTimeout(timer);
        resolve(code);
      });
    });
  });
