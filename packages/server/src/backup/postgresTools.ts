import { execFile } from 'node:child_process';
import { promisify } from 'node:util';

const run = promisify(execFile);
/** What a program may say before it is cut off. */
const MOST_SAID = 4 * 2 ** 20;

/** Which database PostgreSQL's own programs use, by their environment: arguments can be read by everybody. */
export function databaseEnv(url: string): NodeJS.ProcessEnv {
  const { hostname, port, username, password, pathname } = new URL(url);
  return {
    ...process.env,
    PGHOST: decodeURIComponent(hostname),
    PGPORT: port || '5432',
    PGUSER: decodeURIComponent(username),
    PGPASSWORD: decodeURIComponent(password),
    PGDATABASE: decodeURIComponent(pathname.slice(1)),
  };
}

/** Runs `pg_dump` or `pg_restore` on a database; throws with what it said last. */
export async function runTool(
  tool: 'pg_dump' | 'pg_restore',
  args: readonly string[],
  url: string,
  signal?: AbortSignal,
): Promise<void> {
  try {
    await run(tool, args, { env: databaseEnv(url), maxBuffer: MOST_SAID, ...(signal && { signal }) });
  } catch (error) {
    if (signal?.aborted) throw error;
    const { code, stderr = '' } = error as { code?: unknown; stderr?: string };
    if (code === 'ENOENT')
      throw new Error(`${tool} is not there: install Debian's postgresql-client.`, { cause: error });
    const said = stderr.trim().split('\n').at(-1);
    throw new Error(`${tool} failed${said ? `: ${said}` : ''}`, { cause: error });
  }
}
