// Settings of a render under a name of one's own, kept by this browser.
import { KeptSettings } from '@mellow/contract';

const KEY = 'mellow:render-settings';
const Kept = KeptSettings.array().max(50);

/** All that are kept, by name; none where what is stored cannot be read. */
export function keptSettings(storage: Pick<Storage, 'getItem'>): KeptSettings[] {
  try {
    return Kept.parse(JSON.parse(storage.getItem(KEY) ?? '[]'));
  } catch {
    return [];
  }
}
const store = (storage: Pick<Storage, 'setItem'>, all: readonly KeptSettings[]): void =>
  storage.setItem(KEY, JSON.stringify([...all].sort((a, b) => a.name.localeCompare(b.name))));

/** Keeps settings under a name; what had that name is replaced. */
export function keepSettings(storage: Pick<Storage, 'getItem' | 'setItem'>, kept: KeptSettings): void {
  const name = kept.name.trim();
  store(storage, [...keptSettings(storage).filter((k) => k.name !== name), { ...kept, name }]);
}
export const dropSettings = (storage: Pick<Storage, 'getItem' | 'setItem'>, name: string): void =>
  store(
    storage,
    keptSettings(storage).filter((k) => k.name !== name),
  );
