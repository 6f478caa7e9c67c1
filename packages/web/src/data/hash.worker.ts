// SHA-256 of files as they lie on the user's disk: many gigabytes, read piece by piece and never held.
import { expose } from 'comlink';
import { createSHA256 } from 'hash-wasm';

const hashing = {
  /** As hexadecimal digits; throws where the file cannot be read any more. */
  async sha256(file: Blob): Promise<string> {
    const hash = await createSHA256();
    const reader = file.stream().getReader();
    for (;;) {
      const { done, value } = await reader.read();
      if (done) return hash.digest('hex');
      hash.update(value);
    }
  },
};
expose(hashing);
export type Hashing = typeof hashing;
