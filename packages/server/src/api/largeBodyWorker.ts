// The thread that reads large bodies.
import type { ProblemCode, RouteName } from '@mellow/contract';
import { Refused } from '../errors.ts';
import { bodyOf } from './bodyOf.ts';

export interface Asked {
  name: RouteName;
  bytes: Uint8Array;
}
/** The body as the contract has it, as text again: that is read quickest on the other side. */
export type Told =
  { json: string } | { refused: { code: ProblemCode; detail: string; errors: { path: string; message: string }[] } };

export function answer({ name, bytes }: Asked): Told {
  try {
    return { json: JSON.stringify(bodyOf(name, bytes)) };
  } catch (error) {
    if (!(error instanceof Refused)) throw error;
    return { refused: { code: error.code, detail: error.message, errors: error.errors } };
  }
}
