import { useSyncExternalStore } from 'react';

/**
 * A value that changes with every frame or every move of the pointer, from the viewer to whoever shows it. It is no
 * business of the store, which would ask every selector of the page each time.
 */
export class Feed<T> {
  #newest: T;
  readonly #listeners = new Set<() => void>();

  constructor(first: T) {
    this.#newest = first;
  }
  newest = (): T => this.#newest;
  publish = (value: T): void => {
    if (Object.is(value, this.#newest)) return;
    this.#newest = value;
    for (const tell of this.#listeners) tell();
  };
  /** Gives what ends it. */
  subscribe = (tell: () => void): (() => void) => {
    this.#listeners.add(tell);
    return () => void this.#listeners.delete(tell);
  };
}

/** The newest value of a feed; only the component that asks for it is rendered anew. */
export const useFeed = <T>(feed: Feed<T>): T => useSyncExternalStore(feed.subscribe, feed.newest);
