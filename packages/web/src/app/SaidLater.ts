/**
 * Things to say to somebody who is not there yet: they wait, and are said in their order when that one comes. `wanted`
 * is called when the first of them waits.
 */
export class SaidLater<Hearer> {
  #hearer: Hearer | undefined;
  #waiting: ((hearer: Hearer) => void)[] = [];
  readonly #wanted: () => void;

  constructor(wanted: () => void) {
    this.#wanted = wanted;
  }
  say(what: (hearer: Hearer) => void): void {
    if (this.#hearer) return what(this.#hearer);
    this.#waiting.push(what);
    if (this.#waiting.length === 1) this.#wanted();
  }
  /** Undefined: gone again. */
  heardBy(hearer: Hearer | undefined): void {
    this.#hearer = hearer;
    if (!hearer) return;
    const waiting = this.#waiting;
    this.#waiting = [];
    for (const what of waiting) what(hearer);
  }
}
