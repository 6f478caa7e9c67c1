import { existsSync, readFileSync } from 'node:fs';

/** Processes that this one began and that are there, by a word of their command line. Linux only. */
export const childrenWith = (word: string): string[] =>
  readFileSync(`/proc/self/task/${process.pid}/children`, 'utf8')
    .split(' ')
    .filter((pid) => {
      const told = `/proc/${pid}/cmdline`;
      return pid !== '' && existsSync(told) && readFileSync(told, 'utf8').includes(word);
    });

/** How many there are at most while some work is done. */
export async function mostChildrenWith<T>(word: string, work: () => Promise<T>): Promise<{ most: number; result: T }> {
  let most = 0;
  const look = setInterval(() => (most = Math.max(most, childrenWith(word).length)), 2);
  try {
    return { result: await work(), most };
  } finally {
    clearInterval(look);
  }
}
