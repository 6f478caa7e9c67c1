import type { z } from 'zod';
import { ROUTES, type BodyOf, type RouteName } from '@mellow/contract';
import { Refused } from '../errors.ts';
import { parseInput } from './parseInput.ts';

/** The body of a request as the contract has it, out of JSON of UTF-8 (RFC 8259). Throws Refused where it is not so. */
export function bodyOf<N extends RouteName>(name: N, bytes: Uint8Array): BodyOf<N> {
  const { body } = ROUTES[name] as { body?: z.ZodType };
  return parseInput(body!, parseJson(bytes)) as BodyOf<N>;
}

function parseJson(bytes: Uint8Array): unknown {
  try {
    return JSON.parse(new TextDecoder().decode(bytes));
  } catch (error) {
    throw new Refused('invalid-input', `The body is not valid JSON: ${(error as Error).message}`);
  }
}
