import { expect, it } from 'vitest';
import { dropSettings, keepSettings, keptSettings } from './keptSettings.ts';

const before = { preset: 'vc3', withLook: true, burnIn: false, handles: 8, namePattern: '{shot}_v{n}' } as const;
const settings = { ...before, toFolder: true };
function storage(text: string | null = null) {
  let kept = text;
  return { getItem: () => kept, setItem: (_key: string, value: string) => void (kept = value) };
}
it('keeps settings under names, in their order, and drops them', () => {
  const own = storage();
  keepSettings(own, { name: ' Online ', ...settings });
  keepSettings(own, { name: 'Client', ...settings, preset: 'h264', burnIn: true });
  expect(keptSettings(own).map((k) => [k.name, k.preset])).toEqual([
    ['Client', 'h264'],
    ['Online', 'vc3'],
  ]);
  keepSettings(own, { name: 'Online', ...settings, handles: 0 });
  expect(keptSettings(own)).toHaveLength(2);
  expect(keptSettings(own)[1]).toEqual({ name: 'Online', ...settings, handles: 0 });
  dropSettings(own, 'Client');
  expect(keptSettings(own).map((k) => k.name)).toEqual(['Online']);
});
it('are taken as they were kept before there was a render folder', () => {
  const [old] = keptSettings(storage(JSON.stringify([{ name: 'Old', ...before }])));
  expect(old).toEqual({ name: 'Old', ...before, toFolder: false });
});
it('begins anew where what is stored is broken, or of a format there is no more', () => {
  const old = JSON.stringify([{ name: 'Old', ...settings, preset: 'betacam' }]);
  for (const text of ['', 'no json', '{}', old]) expect(keptSettings(storage(text))).toEqual([]);
});
