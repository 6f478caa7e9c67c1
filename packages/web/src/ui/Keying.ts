import { createContext } from 'react';

/** What a number's key button needs: has it keyframes, has it one here, and set or take away the one here. */
export interface KeyingOf {
  stateOf: (keyed: string) => 'none' | 'between' | 'here';
  /** Several names are set or taken away together, as one step. */
  toggle: (keyed: readonly string[], label: string) => void;
}
/** Set round the numbers of one animated thing; null where nothing is animated. */
export const Keying = createContext<KeyingOf | null>(null);
