import { z } from 'zod';

/** A name people give: without spaces round it, 1 to 120 characters. */
export const Name = z.string().trim().min(1).max(120);

/** Can a text be stored and sent as it is? PostgreSQL holds no NUL, and UTF-8 no half of a surrogate pair. */
export const isStorable = (text: string): boolean => !text.includes('\0') && text.isWellFormed();

/** The first text in a JSON value that cannot be stored, as the path to it; undefined when all can. */
export const unstorableAt = (value: unknown): string | undefined => pathToUnstorable(value)?.join('.');

function pathToUnstorable(value: unknown): string[] | undefined {
  if (typeof value === 'string') return isStorable(value) ? undefined : [];
  if (typeof value !== 'object' || value === null) return undefined;
  // of megabytes of numbers no list of pairs is made
  for (const key of Object.keys(value)) {
    if (!isStorable(key)) return ['(key)'];
    const inner = pathToUnstorable((value as Record<string, unknown>)[key]);
    if (inner) return [key, ...inner];
  }
  return undefined;
}
