import type { AnswerOf, ShowTask } from './frameProtocol.ts';

type Shown = AnswerOf['show'];
const bytesOf = ({ picture, source }: Shown): number => picture.rgba.length + (source?.rgba.length ?? 0);

/**
 * Computed frames, kept until their bytes pass a bound; the one used longest ago goes first. The key is all that a
 * picture depends on, so what comes out is never stale.
 */
export class ShownCache {
  readonly #kept = new Map<string, Shown>();
  readonly #limitBytes: number;
  #bytes = 0;
  constructor(limitBytes: number) {
    this.#limitBytes = limitBytes;
  }
  static readonly #keys = new WeakMap<ShowTask, string>();
  static keyOf(task: ShowTask): string {
    let key = ShownCache.#keys.get(task);
    if (key === undefined) ShownCache.#keys.set(task, (key = JSON.stringify(task)));
    return key;
  }
  get(key: string): Shown | undefined {
    const shown = this.#kept.get(key);
    if (shown) {
      this.#kept.delete(key);
      this.#kept.set(key, shown);
    }
    return shown;
  }
  set(key: string, shown: Shown): void {
    const old = this.#kept.get(key);
    if (old) this.#bytes -= bytesOf(old);
    this.#kept.delete(key);
    this.#kept.set(key, shown);
    this.#bytes += bytesOf(shown);
    for (const [oldest, frame] of this.#kept) {
      if (this.#bytes <= this.#limitBytes || oldest === key) break;
      this.#kept.delete(oldest);
      this.#bytes -= bytesOf(frame);
    }
  }
  has = (key: string): boolean => this.#kept.has(key);
  get bytes(): number {
    return this.#bytes;
  }
}
