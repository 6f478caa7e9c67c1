import { LRUCache } from 'lru-cache';
import type { AnswerOf, ShowTask } from './frameProtocol.ts';

type Shown = AnswerOf['show'];
const bytesOf = ({ picture, source, scope }: Shown): number =>
  picture.rgba.length +
  (source?.rgba.length ?? 0) +
  (scope?.traces ?? []).reduce((bytes, trace) => bytes + trace.byteLength, 0);

/**
 * Computed frames, kept until their bytes pass a bound; the one used longest ago goes first. The key is all that a
 * picture depends on, so what comes out is never stale. A frame larger than the bound is not kept.
 */
export class ShownCache {
  readonly #kept: LRUCache<string, Shown>;
  constructor(limitBytes: number) {
    this.#kept = new LRUCache({ maxSize: limitBytes, sizeCalculation: (shown) => Math.max(bytesOf(shown), 1) });
  }
  static readonly #keys = new WeakMap<ShowTask, string>();
  static keyOf(task: ShowTask): string {
    let key = ShownCache.#keys.get(task);
    if (key === undefined) ShownCache.#keys.set(task, (key = JSON.stringify(task)));
    return key;
  }
  get = (key: string): Shown | undefined => this.#kept.get(key);
  set = (key: string, shown: Shown): void => void this.#kept.set(key, shown);
  has = (key: string): boolean => this.#kept.has(key);
  get bytes(): number {
    return this.#kept.calculatedSize;
  }
}
