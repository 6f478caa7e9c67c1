import { describe, expect, it } from 'vitest';
import { readConfig } from './config.ts';

const read = (env: Record<string, string>) => readConfig({ DATABASE_URL: 'postgres://x/y', ...env });

describe('who is answered', () => {
  it('is this machine only, without a sign-in, unless more is said', () => {
    const config = read({});
    expect(config.host).toBe('127.0.0.1');
    expect(config.signIn).toBeUndefined();
    expect(config.url.href).toBe('http://127.0.0.1:5280/');
    expect(read({ HOST: '::1', PORT: '80' }).url.href).toBe('http://[::1]/');
  });
  it('is never another machine without a sign-in', () => {
    expect(() => read({ HOST: '0.0.0.0' })).toThrow(/MELLOW_URL/);
    expect(read({ HOST: '0.0.0.0', MELLOW_URL: 'http://10.0.0.7:5280' }).signIn).toBeDefined();
    // found under another name, behind a proxy on the same machine
    expect(read({ MELLOW_URL: 'https://hue.house.example' }).signIn).toBeDefined();
    expect(read({ HOST: '10.0.0.7', MELLOW_URL: 'http://localhost:5280' }).signIn).toBeDefined();
    expect(read({ MELLOW_URL: 'http://localhost:5280' }).signIn).toBeUndefined();
    expect(read({ MELLOW_SIGN_IN: 'on' }).signIn).toBeDefined();
  });
  it.each(['hue.house.example', 'ftp://hue.house.example', 'https://hue.house.example/below', ''])(
    'an address that is none is refused: “%s”',
    (MELLOW_URL) => expect(() => read({ MELLOW_URL })).toThrow(/MELLOW_URL/),
  );
  it('a provider is named whole or not at all', () => {
    const named = { MELLOW_SIGN_IN: 'on', MELLOW_OIDC_ISSUER: 'https://id.house.example' };
    expect(() => read(named)).toThrow(/MELLOW_OIDC_CLIENT/);
    expect(() => read({ ...named, MELLOW_OIDC_ISSUER: 'id' })).toThrow(/MELLOW_OIDC_ISSUER/);
    const whole = read({ ...named, MELLOW_OIDC_CLIENT: 'hue', MELLOW_OIDC_SECRET: 'x' });
    expect(whole.signIn?.provider).toMatchObject({ clientId: 'hue', name: 'id.house.example' });
  });
});

it('has defaults for all but the database, and is told of the log', () => {
  expect(read({})).toMatchObject({ port: 5280, log: { level: 'info', terminal: false } });
  const told = read({ MELLOW_LOG: 'terminal', LOG_LEVEL: 'debug' });
  expect(told.log).toMatchObject({ level: 'debug', terminal: true });
});

describe('what is missing or wrong', () => {
  it.each([
    [{ DATABASE_URL: '' }, 'DATABASE_URL is not set'],
    [{ PORT: '70000' }, 'PORT is “70000”'],
    [{ PORT: 'x' }, 'PORT is “x”'],
    [{ LOG_LEVEL: 'loud' }, 'LOG_LEVEL is “loud”'],
  ])('is said by name: %o', (env, name) => expect(() => read(env)).toThrow(name));
});
