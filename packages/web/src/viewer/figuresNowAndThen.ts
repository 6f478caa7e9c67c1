import type { ShowTask } from '../engine/frameProtocol.ts';

/** While a hand moves a picture is measured now and then only: it shall not wait for figures that nobody can read. */
export class FiguresNowAndThen {
  readonly #everyMs: number;
  /** When they came last. */
  #cameAt = -Infinity;

  constructor(everyMs: number) {
    this.#everyMs = everyMs;
  }
  /** What is asked for at a time, ms: without figures where some have just come. */
  wanted(task: ShowTask, at: number): ShowTask {
    const isSoon = task.measure && task.onTheWay && at - this.#cameAt < this.#everyMs;
    return isSoon ? { ...task, measure: false } : task;
  }
  came(at: number): void {
    this.#cameAt = at;
  }
}
