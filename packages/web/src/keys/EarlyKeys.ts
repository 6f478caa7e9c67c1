type Press = Event & { readonly key: string };

/**
 * What is pressed before there is anything to hear it: it waits, and is pressed again, in its order, once there is. A
 * press that something has taken by then is not its business.
 */
export class EarlyKeys {
  readonly #target: EventTarget;
  #pressed: Event[] = [];

  constructor(target: EventTarget) {
    this.#target = target;
    target.addEventListener('keydown', this.#keep);
    target.addEventListener('keyup', this.#keep);
  }
  #keep = (e: Event): void => {
    // Tab goes through what is there
    if (!e.defaultPrevented && (e as Press).key !== 'Tab') this.#pressed.push(e);
  };
  /** Nothing is kept any more. Gives what was. */
  #end(): Event[] {
    this.#target.removeEventListener('keydown', this.#keep);
    this.#target.removeEventListener('keyup', this.#keep);
    return this.#pressed.splice(0);
  }
  /** Presses again what was pressed; `between` gives what each of them does the time to be done. */
  async press(between: () => Promise<void>): Promise<void> {
    for (const e of this.#end()) {
      const Kind = e.constructor as new (type: string, like: Event) => Event;
      this.#target.dispatchEvent(new Kind(e.type, e));
      await between();
    }
  }
  /** Forgets what was pressed. */
  forget(): void {
    this.#end();
  }
}
