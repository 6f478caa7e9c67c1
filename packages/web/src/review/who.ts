// How a client calls themselves, kept by their browser from one visit to the next.
const KEY = 'mellow:reviewer';
export const keptName = (storage: Pick<Storage, 'getItem'>): string => storage.getItem(KEY) ?? '';
export const keepName = (storage: Pick<Storage, 'setItem'>, name: string): void => storage.setItem(KEY, name);
