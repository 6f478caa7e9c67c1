import type { z } from 'zod';
import { unstorableAt } from '@mellow/contract';
import { Refused } from '../errors.ts';

/**
 * Parses with a contract schema; a mismatch is a refusal that names each field by its path. So is a text that cannot be
 * stored.
 */
export function parseInput<S extends z.ZodType>(schema: S, input: unknown): z.infer<S> {
  const unstorable = unstorableAt(input);
  if (unstorable !== undefined)
    throw new Refused('invalid-input', `${unstorable || 'body'}: holds a character that cannot be stored.`, [
      { path: unstorable, message: 'holds NUL or half of a character' },
    ]);
  const result = schema.safeParse(input);
  if (result.success) return result.data;
  const errors = result.error.issues
    .slice(0, 50)
    .map((issue) => ({ path: issue.path.join('.'), message: issue.message }));
  throw new Refused('invalid-input', errors.map((e) => `${e.path || 'body'}: ${e.message}`).join('; '), errors);
}
