import session, { type SessionData } from 'express-session';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { startHarness, type Harness } from '../testing/harness.ts';
import { NOTED_MS, openSessionStore } from './sessionStore.ts';

let h: Harness;
beforeAll(async () => void (h = await startHarness({ people: true })));
afterAll(() => h.close());

const HOUR_MS = 3_600_000;
let ms = 1000;
const store = () => {
  const opened = openSessionStore(h.pool, { now: () => ms });
  const lasting = (maxAge: number) => ({ cookie: Object.assign(new session.Cookie(), { maxAge }) }) as SessionData;
  return {
    set: (sid: string, age: number) => new Promise((resolve) => opened.set(sid, lasting(age), resolve)),
    touch: (sid: string, age: number) => new Promise<void>((resolve) => opened.touch!(sid, lasting(age), resolve)),
  };
};
const hoursLeft = async (sid: string): Promise<number> =>
  (
    await h.pool.query<{ hours: number }>(
      `select round(extract(epoch from expire - now()) / 3600)::int as hours from session where sid = $1`,
      [sid],
    )
  ).rows[0]!.hours;

it('notes that a session is in use, and not again at each request', async () => {
  const { set, touch } = store();
  await set('one', HOUR_MS);
  await set('other', HOUR_MS);
  await touch('one', 5 * HOUR_MS);
  expect([await hoursLeft('one'), await hoursLeft('other')]).toEqual([5, 1]);
  await touch('one', 9 * HOUR_MS);
  await touch('other', 9 * HOUR_MS);
  expect([await hoursLeft('one'), await hoursLeft('other')]).toEqual([5, 9]);
});
it('notes it again after a while', async () => {
  const { set, touch } = store();
  await set('third', HOUR_MS);
  await touch('third', 5 * HOUR_MS);
  ms += NOTED_MS - 1;
  await touch('third', 7 * HOUR_MS);
  expect(await hoursLeft('third')).toBe(5);
  ms += 2;
  await touch('third', 9 * HOUR_MS);
  expect(await hoursLeft('third')).toBe(9);
});
