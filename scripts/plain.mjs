// Small helpers of the set-up scripts. Only Node's own modules: they run before anything is installed.
import { spawn, spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';

/** Ends the script with a plain sentence. */
export function fail(sentence) {
  process.stderr.write(`\n${sentence}\n`);
  process.exit(1);
}
export const pause = (ms) => new Promise((resolve) => setTimeout(resolve, ms));

/** Runs a command with its output shown; ends the script with `why` when it fails. */
export function run(command, args, why, options = {}) {
  const { status, error } = spawnSync(command, args, { stdio: 'inherit', ...options });
  const how = error ? `: ${error.message}` : ` ended with ${status}`;
  if (error || status !== 0) fail(`${why} (${command} ${args.join(' ')}${how})`);
}

export function isRunning(pid) {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    // there, but somebody else's
    return error.code === 'EPERM';
  }
}
/** When a process was started, in ticks since the machine was: with its id it names the process for good. */
export function startOf(pid) {
  try {
    const text = readFileSync(`/proc/${pid}/stat`, 'utf8');
    return text.slice(text.lastIndexOf(')') + 2).split(' ')[19];
  } catch {
    return undefined;
  }
}

/** Starts a program whose life is this script's: SIGTERM on `stop()`, SIGKILL when it does not listen. */
export function child(command, args, options = {}) {
  const started = spawn(command, args, { stdio: ['ignore', 'pipe', 'inherit'], ...options });
  const closed = new Promise((resolve) => started.once('close', resolve));
  return {
    process: started,
    closed,
    async stop(signal = 'SIGTERM', patienceMs = 8000) {
      if (started.exitCode !== null || started.signalCode !== null) return;
      started.kill(signal);
      const killer = setTimeout(() => started.kill('SIGKILL'), patienceMs);
      await closed;
      clearTimeout(killer);
    },
  };
}
