import { z } from 'zod';

/** A name people give: without spaces round it, 1 to 120 characters. */
export const Name = z.string().trim().min(1).max(120);

/** Can a text be stored and sent as it is? PostgreSQL holds no NUL, and UTF-8 no half of a surrogate pair. */
export const isStorable = (text: string): boolean => !text.includes('\0') && text.isWellFormed();

/** The first text in a JSON value that cannot be stored, as the path to it; undefined when all can. */
export function unstorableAt(value: unknown, path: readonly (string | number)[] = []): string | undefined {
  if (typeof value === 'string') return isStorable(value) ? undefined : path.join('.');
  if (typeof value !== 'object' || value === null) return undefined;
  for (const [key, inner] of Object.entries(value)) {
    const at = isStorable(key) ? unstorableAt(inner, [...path, key]) : [...path, '(key)'].join('.');
    if (at !== undefined) return at;
  }
  return undefined;
}
