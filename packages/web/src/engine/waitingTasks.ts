// Tasks that wait for a free worker, in order. Nobody wants what was asked for three frames ago: it is not begun.
import type { AnswerOf, Task } from './frameProtocol.ts';

/** Does tasks, in order; `load` of them have not been answered yet, what is only loaded left out. */
export interface Hand {
  readonly load: number;
  ask<T extends Task>(task: T): Promise<AnswerOf[T['kind']]>;
}
interface Waiting {
  signal: AbortSignal | undefined;
  /** Has it done, and ends when it is done, well or not. */
  begin: (hand: Hand) => Promise<void>;
}

export class WaitingTasks {
  readonly #waiting: Waiting[] = [];

  /** Rejects with the signal's reason when the task is no longer wanted, whether it has been begun or not. */
  add<T extends Task>(task: T, signal?: AbortSignal): Promise<AnswerOf[T['kind']]> {
    return new Promise((resolve, reject) => {
      const drop = () => reject(signal!.reason as Error);
      if (signal?.aborted) return drop();
      signal?.addEventListener('abort', drop, { once: true });
      const begin = (hand: Hand) => hand.ask(task).then(resolve, reject);
      this.#waiting.push({ signal, begin });
    });
  }
  /** Takes the first that is still wanted. */
  next(): Waiting['begin'] | undefined {
    for (let first = this.#waiting.shift(); first; first = this.#waiting.shift())
      if (!first.signal?.aborted) return first.begin;
    return undefined;
  }
}
