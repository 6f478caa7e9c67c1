/**
 * Edits that are shown already and still wait for something that belongs to them: what a stroke lies on, say. Each is
 * made once that is known; without it, where it cannot be had or the edit can wait no longer.
 */
export class UnderWay {
  readonly #waiting = new Map<() => void, Promise<void>>();
  readonly #onChange: () => void;
  readonly #tell: (problem: unknown) => void;

  /** `onChange`: called when an edit begins to wait, and when one has been made. `tell`: of one that cannot be made. */
  constructor(onChange: () => void, tell: (problem: unknown) => void) {
    [this.#onChange, this.#tell] = [onChange, tell];
  }
  get isWaiting(): boolean {
    return this.#waiting.size > 0;
  }
  /** `make` is called once, with what became known or without. */
  make<T>(known: Promise<T>, make: (known: T | undefined) => void): void {
    const finish = (value?: T) => {
      if (!this.#waiting.delete(finish)) return;
      try {
        make(value);
      } catch (problem) {
        this.#tell(problem);
      }
      this.#onChange();
    };
    this.#waiting.set(
      finish,
      known.then(finish, () => finish()),
    );
    this.#onChange();
  }
  /** Makes all that wait, in their order, without what they wait for: the page is being left. */
  makeAll(): void {
    for (const finish of [...this.#waiting.keys()]) finish();
  }
  /** Resolves once all that wait now have been made. */
  async made(): Promise<void> {
    await Promise.all(this.#waiting.values());
  }
}
