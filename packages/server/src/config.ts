import { isIP } from 'node:net';
import { resolve } from 'node:path';
import type { Level } from 'pino';
import type { LogOptions } from './logging.ts';
import { readKeepingRules, type KeepingRules } from './keeping/rules.ts';
import type { ProviderOptions } from './people/provider.ts';

export interface Config {
  databaseUrl: string;
  mediaRoot: string;
  host: string;
  port: number;
  log: LogOptions;
  /** Where people find this installation. */
  url: URL;
  /** Undefined: nobody signs in, since only this machine is answered. */
  signIn: { secretFile: string; provider: ProviderOptions | undefined } | undefined;
  /** What a monitor that cannot sign in shows. */
  monitorToken: string | undefined;
  /** Addresses of proxies before the server, as Express' `trust proxy` takes them. */
  proxies: string;
  keeping: KeepingRules;
}

const LEVELS: readonly Level[] = ['fatal', 'error', 'warn', 'info', 'debug', 'trace'];
const LOOPBACK = ['127.0.0.1', 'localhost', '::1', '[::1]'];

/**
 * Where people find the server. Answering to other machines demands a sign-in; so does being found under another name,
 * behind a proxy on the same machine.
 */
function addressOf(env: NodeJS.ProcessEnv, host: string, port: number): { url: URL; isOpen: boolean } {
  const isLoopback = LOOPBACK.includes(host);
  if (env.MELLOW_URL === undefined) {
    if (!isLoopback)
      throw new Error(
        `HOST is ${host}: to answer to other machines the server must know its address there. ` +
          'Set MELLOW_URL to what people open, such as https://hue.house.example.',
      );
    return { url: new URL(`http://${isIP(host) === 6 ? `[${host}]` : host}:${port}`), isOpen: false };
  }
  const url = URL.canParse(env.MELLOW_URL) ? new URL(env.MELLOW_URL) : undefined;
  if (!url || !['http:', 'https:'].includes(url.protocol) || url.pathname !== '/')
    throw new Error(
      `MELLOW_URL is “${env.MELLOW_URL}”: give the address people open, such as https://hue.house.example.`,
    );
  return { url, isOpen: !isLoopback || !LOOPBACK.includes(url.hostname) };
}

function providerOf(env: NodeJS.ProcessEnv): ProviderOptions | undefined {
  const { MELLOW_OIDC_ISSUER: issuer, MELLOW_OIDC_CLIENT: clientId, MELLOW_OIDC_SECRET: clientSecret } = env;
  if (!issuer) return undefined;
  if (!URL.canParse(issuer)) throw new Error(`MELLOW_OIDC_ISSUER is “${issuer}”: give the provider's address.`);
  if (!clientId || !clientSecret)
    throw new Error('MELLOW_OIDC_ISSUER is set: MELLOW_OIDC_CLIENT and MELLOW_OIDC_SECRET must be too.');
  return { issuer: new URL(issuer), clientId, clientSecret, name: env.MELLOW_OIDC_NAME ?? new URL(issuer).hostname };
}

/** Reads the environment; throws a plain sentence for what is missing or not allowed. */
export function readConfig(env: NodeJS.ProcessEnv): Config {
  const databaseUrl = env.DATABASE_URL;
  if (!databaseUrl) throw new Error('DATABASE_URL is not set. `npm start` sets it; on its own, the server needs it.');
  const host = env.HOST ?? '127.0.0.1';
  const port = Number(env.PORT ?? 5280);
  if (!Number.isInteger(port) || port < 0 || port > 65535)
    throw new Error(`PORT is “${env.PORT}”: give a number from 1 to 65535.`);
  const level = LEVELS.find((one) => one === (env.LOG_LEVEL ?? 'info'));
  if (!level) throw new Error(`LOG_LEVEL is “${env.LOG_LEVEL}”: give one of ${LEVELS.join(', ')}.`);
  const { url, isOpen } = addressOf(env, host, port);
  const secretFile = resolve(env.MELLOW_SECRET_FILE ?? '.data/session-secret');
  return {
    databaseUrl,
    mediaRoot: resolve(env.MELLOW_MEDIA ?? '.data/media'),
    host,
    port,
    log: { folder: resolve(env.MELLOW_LOGS ?? '.data/logs'), level, terminal: env.MELLOW_LOG === 'terminal' },
    url,
    signIn: isOpen || env.MELLOW_SIGN_IN === 'on' ? { secretFile, provider: providerOf(env) } : undefined,
    monitorToken: env.MELLOW_MONITOR_TOKEN || undefined,
    proxies: env.MELLOW_PROXIES ?? 'loopback',
    keeping: readKeepingRules(env),
  };
}
