import { request } from 'node:http';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Problem } from '@mellow/contract';
import { startHarness, type Harness } from '../testing/harness.ts';
import { hashedPassword } from './signIn.ts';
import { account, browser, PASSWORD, signedIn, type Browser } from '../testing/people.ts';

const PLENTY = { signedIn: 1e6, without: 1e6 };
let h: Harness;
beforeAll(async () => void (h = await startHarness({ people: true, changesAMinute: PLENTY })));
afterAll(() => h.close());

const problemOf = async (response: Response) => (await response.json()) as Problem;
const isIn = async (who: Browser) => (await who.call('me')).person !== null;

describe('signing in', () => {
  it('is asked for, lets in with the right password, and out again', async () => {
    await account(h, 'anna@house.example', 'member');
    const anna = browser(h);
    expect(await anna.call('me')).toEqual({ isAsked: true, person: null, provider: null });
    expect((await anna.send('listProjects')).status).toBe(401);
    // case does not matter, spaces round it neither
    const me = await anna.call('signIn', {}, { login: ' Anna@House.example ', password: PASSWORD });
    expect(me.person).toMatchObject({ login: 'anna@house.example', kind: 'member' });
    expect(await anna.call('listProjects')).toEqual([]);
    const before = anna.cookie;
    await anna.call('signOut');
    anna.cookie = before;
    // the session is gone, not only the cookie
    expect((await anna.send('listProjects')).status).toBe(401);
  });
  it('says the same of a wrong password and of a name that nobody has', async () => {
    await account(h, 'ben', 'guest');
    const answer = async (login: string) =>
      problemOf(await browser(h).send('signIn', {}, { login, password: 'wrong guess' }));
    const [known, unknown] = [await answer('ben'), await answer('nobody')];
    expect(known).toEqual(unknown);
    expect(known.status).toBe(403);
  });
  it('gives no cookie to scripts, to other sites, nor to who has not signed in', async () => {
    await account(h, 'carl', 'guest');
    const carl = browser(h);
    expect((await carl.send('me')).headers.get('set-cookie')).toBeNull();
    const set = (await carl.send('signIn', {}, { login: 'carl', password: PASSWORD })).headers.get('set-cookie');
    expect(set).toMatch(/HttpOnly/);
    expect(set).toMatch(/SameSite=Lax/);
    expect(set).not.toMatch(/Domain/);
  });
  it('begins another session: one that was planted beforehand is not signed in', async () => {
    await account(h, 'dora', 'guest');
    const dora = await signedIn(h, 'planted', 'guest');
    const planted = dora.cookie;
    await dora.call('signIn', {}, { login: 'dora', password: PASSWORD });
    expect(dora.cookie).not.toBe(planted);
    const attacker = browser(h);
    attacker.cookie = planted;
    expect(await isIn(attacker)).toBe(false);
  });
  it('takes no cookie that was made up or changed', async () => {
    const eva = await signedIn(h, 'eva', 'guest');
    const thief = browser(h);
    for (const cookie of [eva.cookie.slice(0, -3), eva.cookie.replace(/s%3A/, 's%3Ax'), 'mellow-session=s%3Ax.y']) {
      thief.cookie = cookie;
      expect(await isIn(thief), cookie).toBe(false);
    }
  });
  it('ends with the session’s time, and with the account', async () => {
    const finn = await signedIn(h, 'finn', 'guest');
    await h.pool.query(`update session set expire = now() - interval '1 second' where sess ->> 'personId' = $1`, [
      finn.person.id,
    ]);
    expect(await isIn(finn)).toBe(false);
    const [gus, admin] = [await signedIn(h, 'gus', 'guest'), await signedIn(h, 'root', 'admin')];
    expect(await isIn(gus)).toBe(true);
    await admin.call('changePerson', { personId: gus.person.id }, { isActive: false });
    expect(await isIn(gus)).toBe(false);
    expect((await gus.send('signIn', {}, { login: 'gus', password: PASSWORD })).status).toBe(403);
  });
  it('stops who guesses, long before a thousandth try, even with the right one at last', async () => {
    await account(h, 'hanna', 'guest');
    const [guesser, answers] = [browser(h), new Map<number, number>()];
    for (let i = 0; i < 60; i++) {
      const { status } = await guesser.send('signIn', {}, { login: 'hanna', password: `guess ${i}` });
      answers.set(status, (answers.get(status) ?? 0) + 1);
    }
    expect([...answers]).toEqual([
      [403, 10],
      [429, 50],
    ]);
    const refused = await guesser.send('signIn', {}, { login: 'hanna', password: PASSWORD });
    expect(refused.status).toBe(429);
    expect(Number(refused.headers.get('retry-after'))).toBeGreaterThan(60);
  });
  it('counts guesses that come all at once as it does one by one', async () => {
    await account(h, 'ines', 'guest');
    const guesses = Array.from({ length: 40 }, (_, i) =>
      browser(h).send('signIn', {}, { login: 'ines', password: `guess ${i}` }),
    );
    const statuses = (await Promise.all(guesses)).map((r) => r.status);
    expect(statuses.filter((s) => s === 403)).toHaveLength(10);
  });
});

describe('invitations', () => {
  it('let one choose a password, once', async () => {
    const admin = await signedIn(h, 'keeper', 'admin');
    const { token, person } = await admin.call('addPerson', {}, { login: 'Jo', name: 'Jo Reed', kind: 'member' });
    expect(person).toMatchObject({ login: 'jo', isReady: false });
    const jo = browser(h);
    expect(await jo.call('findInvitation', { token })).toEqual({ name: 'Jo Reed', login: 'jo' });
    const short = await problemOf(await jo.send('acceptInvitation', { token }, { password: 'short' }));
    expect(short.errors.map((e) => e.path)).toEqual(['password']);
    expect((await jo.call('acceptInvitation', { token }, { password: PASSWORD })).person?.isReady).toBe(true);
    expect(await isIn(jo)).toBe(true);
    expect((await jo.send('acceptInvitation', { token }, { password: 'another long one' })).status).toBe(404);
    await jo.call('signIn', {}, { login: 'jo', password: PASSWORD });
  });
  it('a new one replaces the last, and using it ends what was signed in before', async () => {
    const [admin, kim] = [await signedIn(h, 'keeper2', 'admin'), await signedIn(h, 'kim', 'guest')];
    const first = await admin.call('invite', { personId: kim.person.id });
    const second = await admin.call('invite', { personId: kim.person.id });
    expect((await browser(h).send('findInvitation', { token: first.token })).status).toBe(404);
    expect(await isIn(kim)).toBe(true);
    await browser(h).call('acceptInvitation', { token: second.token }, { password: 'something else entirely' });
    expect(await isIn(kim)).toBe(false);
    expect((await kim.send('signIn', {}, { login: 'kim', password: PASSWORD })).status).toBe(403);
  });
  it('end after their days, and of a link only the hash is kept', async () => {
    const admin = await signedIn(h, 'keeper3', 'admin');
    const { token, person } = await admin.call('addPerson', {}, { login: 'lea', name: 'Lea', kind: 'guest' });
    const { rows } = await h.pool.query<{ all: string }>(`select invitation::text as all from invitation`);
    expect(rows.every((row) => !row.all.includes(token))).toBe(true);
    await h.pool.query(`update invitation set expires_at = now() where person_id = $1`, [person.id]);
    expect((await browser(h).send('findInvitation', { token })).status).toBe(404);
    expect((await browser(h).send('acceptInvitation', { token }, { password: PASSWORD })).status).toBe(404);
  });
});

describe('accounts', () => {
  it('a login is somebody’s alone, whatever its case', async () => {
    const admin = await signedIn(h, 'keeper4', 'admin');
    await admin.call('addPerson', {}, { login: 'max', name: 'Max', kind: 'guest' });
    const again = await problemOf(await admin.send('addPerson', {}, { login: 'MAX', name: 'Other', kind: 'guest' }));
    expect(again).toMatchObject({ status: 409, errors: [{ path: 'login' }] });
  });
  it('one admin is left, whatever is asked', async () => {
    const admin = await signedIn(h, 'last', 'admin');
    await h.pool.query(`update person set kind = 'guest' where kind = 'admin' and id <> $1`, [admin.person.id]);
    const personId = admin.person.id;
    for (const change of [{ kind: 'member' as const }, { isActive: false }])
      expect((await admin.send('changePerson', { personId }, change)).status).toBe(409);
    expect((await admin.call('changePerson', { personId }, { name: 'The last' })).name).toBe('The last');
  });
});

describe('another site in the same browser', () => {
  it('may send nothing, with a cookie or without, whether or not the browser says where it stands', async () => {
    const nora = await signedIn(h, 'nora', 'member');
    const post = (headers: Record<string, string>) =>
      fetch(`${h.url}/api/projects`, {
        method: 'POST',
        headers: { cookie: nora.cookie, 'content-type': 'application/json', ...headers },
        body: JSON.stringify({ name: 'Planted' }),
      });
    for (const headers of [
      { origin: 'https://evil.example' },
      { origin: 'null' },
      { origin: `${h.url}.evil.example` },
      { origin: h.url.replace('http:', 'ftp:').replace('127.0.0.1', 'evil.example') },
      { 'sec-fetch-site': 'cross-site' },
      { origin: h.url, 'sec-fetch-site': 'same-site' },
    ])
      expect((await post(headers as Record<string, string>)).status, JSON.stringify(headers)).toBe(400);
    expect(await nora.call('listProjects')).toEqual([]);
    expect((await post({ origin: h.url, 'sec-fetch-site': 'same-origin' })).status).toBe(201);
  });
});

describe('requests that change something', () => {
  it('are refused when they come faster than hands work, by person and, without an account, by address', async () => {
    const few = await startHarness({ people: true, changesAMinute: { signedIn: 4, without: 2 } });
    try {
      const otto = await signedIn(few, 'otto', 'member');
      const statuses = [];
      for (let i = 0; i < 6; i++) statuses.push((await otto.send('createProject', {}, { name: 'One' })).status);
      expect(statuses).toEqual([201, 201, 201, 201, 429, 429]);
      expect((await otto.send('listProjects')).status).toBe(200);
      const [stranger, body] = [browser(few), { login: 'otto', password: PASSWORD }];
      expect((await stranger.send('signIn', {}, body)).status).toBe(200);
      expect((await browser(few).send('signIn', {}, body)).status).toBe(429);
    } finally {
      await few.close();
    }
  });
});

describe('behind a proxy that does TLS', () => {
  const host = 'hue.house.example';
  /** What a proxy on this machine sends on; `fetch` lets nobody name the host. */
  const send = (h: Harness, headers: Record<string, string>): Promise<{ status: number; cookie: string | undefined }> =>
    new Promise((resolve, reject) => {
      const sent = request(`${h.url}/api/sign-in`, {
        method: 'POST',
        headers: { host, 'content-type': 'application/json', connection: 'close', ...headers },
      });
      sent.on('response', (response) => {
        response.resume();
        resolve({ status: response.statusCode!, cookie: response.headers['set-cookie']?.[0] });
      });
      sent.on('error', reject);
      sent.end(JSON.stringify({ login: 'pia', password: PASSWORD }));
    });
  let behind: Harness;
  beforeAll(async () => {
    behind = await startHarness({ people: true, behind: `https://${host}`, changesAMinute: PLENTY });
    await account(behind, 'pia', 'member');
  });
  afterAll(() => behind.close());

  it('cookies are for TLS only, and none is given where the proxy does not say that there is TLS', async () => {
    const letIn = await send(behind, { 'x-forwarded-proto': 'https', origin: `https://${host}` });
    expect([letIn.status, letIn.cookie]).toEqual([200, expect.stringMatching(/; Secure/)]);
    expect(await send(behind, {})).toEqual({ status: 400, cookie: undefined });
  });
  it('only its own name is answered, and edits are taken from its own pages only', async () => {
    const secure = { 'x-forwarded-proto': 'https' };
    expect((await send(behind, { ...secure, host: 'rebound.example' })).status).toBe(400);
    expect((await send(behind, { ...secure, origin: 'https://evil.example' })).status).toBe(400);
    expect((await send(behind, { ...secure, origin: `https://${host}.evil.example` })).status).toBe(400);
  });
  it('guesses are counted by the address that the proxy names', async () => {
    const from = async (address: string) =>
      (await send(behind, { 'x-forwarded-proto': 'https', 'x-forwarded-for': address })).status;
    await behind.pool.query(`update person set password = $1`, [await hashedPassword('another than that')]);
    const guesses = [];
    for (let i = 0; i < 11; i++) guesses.push(await from('10.0.0.66'));
    expect(guesses).toEqual([...Array<number>(10).fill(403), 429]);
    await behind.pool.query(`update person set password = $1`, [await hashedPassword(PASSWORD)]);
    expect(await from('10.0.0.66')).toBe(429);
    expect(await from('10.0.0.7')).toBe(200);
  });
});
