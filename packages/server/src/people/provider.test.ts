import { OAuth2Server } from 'oauth2-mock-server';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { startHarness, type Harness } from '../testing/harness.ts';
import { account, browser, type Browser } from '../testing/people.ts';
import { openProvider } from './provider.ts';

// A provider that signs everybody in as whoever `claims` says: OpenID Connect Core 1.0, 3.1.
const provider = new OAuth2Server();
let claims: Record<string, unknown> = {};
let h: Harness;
beforeAll(async () => {
  await provider.issuer.keys.generate('RS256');
  await provider.start(0, '127.0.0.1');
  provider.issuer.url = `http://127.0.0.1:${provider.address().port}`;
  provider.service.on('beforeTokenSigning', (token: { payload: Record<string, unknown> }) => {
    Object.assign(token.payload, claims);
  });
  const issuer = new URL(provider.issuer.url);
  const known = openProvider({ issuer, clientId: 'mellow', clientSecret: 'secret', name: 'The house' });
  h = await startHarness({ people: true, provider: known });
});
afterAll(async () => {
  await h.close();
  await provider.stop();
});

/** Goes to the provider and comes back with its answer; the address that one comes back with may be changed. */
async function goAndReturn(who: Browser, change = (at: URL) => at): Promise<Response> {
  const away = await who.send('signInElsewhere');
  const there = await fetch(away.headers.get('location')!, { redirect: 'manual' });
  const back = change(new URL(there.headers.get('location')!));
  return fetch(h.url + back.pathname + back.search, { redirect: 'manual', headers: { cookie: who.cookie } });
}
async function isInAfter(who: Browser, response: Response): Promise<string | undefined> {
  const set = response.headers.get('set-cookie');
  if (set) who.cookie = set.split(';')[0]!;
  return (await who.call('me')).person?.login;
}

describe('signing in with the house’s own accounts', () => {
  it('lets in whom an account was made for: by an address that was checked, by its subject ever after', async () => {
    await account(h, 'anna@house.example', 'member');
    claims = { sub: 'a-1', email: 'Anna@house.example', email_verified: true };
    const anna = browser(h);
    expect((await anna.call('me')).provider).toBe('The house');
    const back = await goAndReturn(anna);
    expect(back.headers.get('location')).toBe('/');
    expect(await isInAfter(anna, back)).toBe('anna@house.example');
    // she has another address now, and is the same
    claims = { sub: 'a-1', email: 'anna.bell@house.example', email_verified: true };
    const again = browser(h);
    expect(await isInAfter(again, await goAndReturn(again))).toBe('anna@house.example');
  });
  it('lets nobody in whose address nobody has checked, who has no account, or who takes another’s', async () => {
    await account(h, 'ben@house.example', 'guest');
    for (const said of [
      { sub: 'b-1', email: 'ben@house.example', email_verified: false },
      { sub: 'b-1', email: 'stranger@house.example', email_verified: true },
      // Anna's account belongs to another subject
      { sub: 'b-1', email: 'anna@house.example', email_verified: true },
    ]) {
      claims = said;
      const ben = browser(h);
      const answer = await goAndReturn(ben);
      expect(answer.status).toBe(403);
      expect(await isInAfter(ben, answer)).toBeUndefined();
    }
  });
  it('takes no answer that was not asked for, or that was asked for by another browser', async () => {
    claims = { sub: 'a-1' };
    const [anna, other] = [browser(h), browser(h)];
    expect((await goAndReturn(anna, (at) => (at.searchParams.set('state', 'made up'), at))).status).toBe(403);
    let stolen = new URL(h.url);
    await goAndReturn(anna, (at) => {
      stolen = new URL(at);
      at.searchParams.set('code', 'none');
      return at;
    });
    await other.send('signInElsewhere');
    const planted = await fetch(h.url + stolen.pathname + stolen.search, {
      redirect: 'manual',
      headers: { cookie: other.cookie },
    });
    expect(planted.status).toBe(403);
    expect(await isInAfter(other, planted)).toBeUndefined();
    const unasked = await fetch(h.url + stolen.pathname + stolen.search, { redirect: 'manual' });
    expect(unasked.status).toBe(400);
  });
  it('says when the provider does not answer; passwords go on as before', async () => {
    const gone = openProvider({
      issuer: new URL('http://127.0.0.1:9'),
      clientId: 'mellow',
      clientSecret: 'secret',
      name: 'The house',
    });
    await expect(gone.leave(new URL(h.url))).rejects.toMatchObject({ code: 'unavailable' });
  });
});
