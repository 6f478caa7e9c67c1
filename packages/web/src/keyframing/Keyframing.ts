import { createContext } from 'react';

/** What a number's key button needs: has it keyframes, has it one here, and set or take away the one here. */
export interface KeyframingOf {
  stateOf: (animates: string) => 'none' | 'between' | 'here';
  /** Several names are set or taken away together, as one step. */
  toggle: (animates: readonly string[], label: string) => void;
}
/** Set round the numbers of one animated thing; null where nothing is animated. */
export const Keyframing = createContext<KeyframingOf | null>(null);
