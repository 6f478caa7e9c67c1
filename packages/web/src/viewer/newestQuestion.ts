/**
 * Asks about what changes faster than it is answered: one question at a time, then the newest. An answer is told with
 * its question, unless by then nothing is asked any more; of a question that failed `undefined` is told.
 */
export class NewestQuestion<Q, A> {
  readonly #ask: (question: Q) => Promise<A>;
  readonly #tell: (answer: A | undefined, question: Q | undefined) => void;
  #newest: Q | undefined;
  #isAsking = false;

  constructor(ask: (question: Q) => Promise<A>, tell: (answer: A | undefined, question: Q | undefined) => void) {
    [this.#ask, this.#tell] = [ask, tell];
  }
  /** Undefined: nothing is asked any more, which is told at once. */
  put(question: Q | undefined): void {
    this.#newest = question;
    if (question === undefined) this.#tell(undefined, undefined);
    else if (!this.#isAsking) void this.#askAll();
  }
  async #askAll(): Promise<void> {
    this.#isAsking = true;
    for (let question = this.#newest; question !== undefined;) {
      const answer = await this.#ask(question).catch(() => undefined);
      const newest: Q | undefined = this.#newest;
      if (newest !== undefined) this.#tell(answer, question);
      question = newest === question ? undefined : newest;
    }
    this.#isAsking = false;
  }
}
