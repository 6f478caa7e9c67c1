// Small helpers of the set-up scripts. Only Node's own modules: they run before anything is installed.
import { spawn, spawnSync } from 'node:child_process';

/** Ends the script with a plain sentence. */
export function fail(sentence) {
  process.stderr.write(`\n${sentence}\n`);
  process.exit(1);
}

/** Runs a command with its output shown; ends the script with `why` when it fails. */
export function run(command, args, why, options = {}) {
  const { status, error } = spawnSync(command, args, { stdio: 'inherit', ...options });
  if (error || status !== 0)
    fail(`${why} (${command} ${args.join(' ')}${error ? `: ${error.message}` : ` ended with ${status}`})`);
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
