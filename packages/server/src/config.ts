import { resolve } from 'node:path';
import type { LogOptions } from './logging.ts';

export interface Config {
  databaseUrl: string;
  mediaRoot: string;
  host: string;
  port: number;
  log: LogOptions;
}

const LEVELS = ['fatal', 'error', 'warn', 'info', 'debug', 'trace'];

/** Reads the environment; throws a plain sentence for what is missing or not allowed. */
export function readConfig(env: NodeJS.ProcessEnv): Config {
  const databaseUrl = env.DATABASE_URL;
  if (!databaseUrl) throw new Error('DATABASE_URL is not set. `npm start` sets it; on its own, the server needs it.');
  const host = env.HOST ?? '127.0.0.1';
  if (!['127.0.0.1', 'localhost', '::1'].includes(host))
    throw new Error(
      `HOST is ${host}: answering to other machines needs a sign-in, which is not there yet. Use 127.0.0.1.`,
    );
  const port = Number(env.PORT ?? 5280);
  if (!Number.isInteger(port) || port < 0 || port > 65535)
    throw new Error(`PORT is “${env.PORT}”: give a number from 1 to 65535.`);
  const level = env.LOG_LEVEL ?? 'info';
  if (!LEVELS.includes(level)) throw new Error(`LOG_LEVEL is “${level}”: give one of ${LEVELS.join(', ')}.`);
  const log = { folder: resolve(env.MELLOW_LOGS ?? '.data/logs'), level, terminal: env.MELLOW_LOG === 'terminal' };
  return { databaseUrl, mediaRoot: resolve(env.MELLOW_MEDIA ?? '.data/media'), host, port, log };
}
