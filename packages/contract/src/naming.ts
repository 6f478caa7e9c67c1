// Names of rendered files, made after a pattern.
import { z } from 'zod';

/** What a pattern can say of a render, in braces: `{shot}`. `n` counts the renders of a shot, colourway and format. */
export const NAME_WORDS = ['project', 'shot', 'colourway', 'n', 'date'] as const;
export type NameWords = Record<(typeof NAME_WORDS)[number], string>;
export const PLAIN_PATTERN = '{shot}_{colourway}';

const isWord = (word: string): word is keyof NameWords => (NAME_WORDS as readonly string[]).includes(word);

/** What is wrong with a pattern, in a sentence; undefined: nothing. */
export function patternFault(pattern: string): string | undefined {
  const known = NAME_WORDS.map((w) => `{${w}}`).join(', ');
  const words = Array.from(pattern.matchAll(/\{([^{}]*)\}/g), ([, word]) => word!);
  const unknown = words.find((w) => !isWord(w));
  if (unknown !== undefined) return `“{${unknown}}” is none of ${known}.`;
  if (/[{}]/.test(pattern.replace(/\{[^{}]*\}/g, ''))) return 'A brace is not closed.';
  return words.length > 0 ? undefined : `All files would be called alike: put in one of ${known}.`;
}
export const NamePattern = z
  .string()
  .trim()
  .min(1)
  .max(120)
  .superRefine((pattern, context) => {
    const message = patternFault(pattern);
    if (message) context.addIssue({ code: 'custom', message });
  });

/** Letters that a name may have at the most: a piece's name and a frame's number are put behind it. */
const MOST_LETTERS = 80;
const MOST_IN_ALL = 170;
const ascii = (text: string): string =>
  text
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .replace(/[^\w.-]+/g, '-');

/** A name as files may have it: letters, digits, dots, dashes and underscores; never empty, never hidden. */
export const plainName = (name: string): string =>
  ascii(name)
    .replace(/^[-.]+|-+$/g, '')
    .slice(0, MOST_LETTERS) || 'untitled';

/** The name of a file, without its extension, after a pattern that has no fault. */
export function nameAfter(pattern: string, words: NameWords): string {
  const parts = pattern.split(/(\{[^{}]*\})/).map((part) => {
    const word = part.slice(1, -1);
    return part.startsWith('{') && isWord(word) ? plainName(words[word]) : ascii(part);
  });
  return (
    parts
      .join('')
      .replace(/^[-.]+/, '')
      .slice(0, MOST_IN_ALL) || 'untitled'
  );
}
