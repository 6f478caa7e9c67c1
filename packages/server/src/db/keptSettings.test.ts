// Settings of renders under names, over HTTP.
import { afterAll, beforeAll, expect, it } from 'vitest';
import { startHarness, type Harness } from '../testing/harness.ts';

let h: Harness;
beforeAll(async () => {
  h = await startHarness();
});
afterAll(() => h.close());

const settings = { preset: 'vc3', withLook: true, burnIn: false, handles: 8, namePattern: '{shot}_v{n}' } as const;
const names = async () => (await h.call('listKeptSettings', {})).map((k) => k.name);

it('are kept under names, in their order, replaced and dropped', async () => {
  await h.call('keepSettings', {}, { name: 'online', ...settings, toFolder: true });
  await h.call('keepSettings', {}, { name: 'Client', ...settings, preset: 'h264', toFolder: false });
  const kept = await h.call('keepSettings', {}, { name: 'online', ...settings, handles: 0, toFolder: false });
  expect(kept.map((k) => [k.name, k.preset, k.handles])).toEqual([
    ['Client', 'h264', 8],
    ['online', 'vc3', 0],
  ]);
  expect((await h.call('dropSettings', {}, { name: 'Client' })).map((k) => k.name)).toEqual(['online']);
});
it('of a format there is no more are left out, and the others are there', async () => {
  await h.pool.query(`insert into kept_settings values ('Old', '{"preset": "betacam"}')`);
  expect(await names()).toEqual(['online']);
});
it('are not without number', async () => {
  await h.pool.query(`insert into kept_settings select 'n ' || n, '{}' from generate_series(1, 198) n`);
  const more = { name: 'One more', ...settings, toFolder: false };
  await expect(h.call('keepSettings', {}, more)).rejects.toThrow(/200 settings are kept already/);
  await h.call('keepSettings', {}, { ...more, name: 'online' });
  expect(await names()).toEqual(['online']);
});
it('without a name or with a broken pattern are refused', async () => {
  const fault = (body: object) => h.call('keepSettings', {}, { name: 'x', ...settings, toFolder: false, ...body });
  await expect(fault({ name: ' ' })).rejects.toThrow(/name/);
  await expect(fault({ namePattern: '{show}' })).rejects.toThrow(/namePattern: “{show}” is none of/);
});
