// Somebody watches a track while it runs; nobody waits for the ribbon. Work in the background steps aside meanwhile.
let atWork = 0;
const waiting = new Set<() => void>();

/** Runs work that somebody waits for. */
export async function interactive<T>(work: () => Promise<T>): Promise<T> {
  atWork++;
  try {
    return await work();
  } finally {
    atWork--;
    if (atWork === 0) for (const go of [...waiting]) go();
  }
}

/** Resolves once nothing of that kind runs in this process, or the signal is aborted. */
export async function whenQuiet(signal: AbortSignal): Promise<void> {
  while (atWork > 0 && !signal.aborted)
    await new Promise<void>((resolve) => {
      const go = () => {
        waiting.delete(go);
        signal.removeEventListener('abort', go);
        resolve();
      };
      waiting.add(go);
      signal.addEventListener('abort', go);
    });
}
