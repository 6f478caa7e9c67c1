import { wrap } from 'comlink';
import type { Hashing } from './hash.worker.ts';

export interface Hashes {
  /** Of a file's bytes, as hexadecimal digits. */
  sha256: (file: File) => Promise<string>;
  end: () => void;
}
/** A worker that reads files. */
export function openHashes(): Hashes {
  const worker = new Worker(new URL('./hash.worker.ts', import.meta.url), { type: 'module' });
  const { sha256 } = wrap<Hashing>(worker);
  return { sha256, end: () => worker.terminate() };
}
