import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { NamePattern, nameAfter, NAME_WORDS, patternFault, PLAIN_PATTERN } from './naming.ts';
import { renderFileName } from './presets.ts';

const words = { project: 'Slow Morning', shot: '2 Café', colourway: 'Retail', n: '3', date: '2026-11-27' };

describe('a name pattern', () => {
  it('puts words in their places, as files may be called', () => {
    expect(nameAfter(PLAIN_PATTERN, words)).toBe('2-Cafe_Retail');
    expect(nameAfter('{project}_{shot}_{colourway}_v{n} {date}', words)).toBe(
      'Slow-Morning_2-Cafe_Retail_v3-2026-11-27',
    );
    expect(nameAfter('../{shot}', { ...words, shot: '…' })).toBe('untitled');
  });
  it('names what is written: mattes say so', () => {
    expect(renderFileName(' {shot} ', words, 'ffv1')).toBe('2-Cafe.mkv');
    expect(renderFileName('{shot}', words, 'matteExr')).toBe('2-Cafe_mattes.zip');
  });
  it.each([
    ['{shot}_{color}', '“{color}” is none of {project}, {shot}, {colourway}, {n}, {date}.'],
    ['{shot', 'A brace is not closed.'],
    ['{{shot}}', 'A brace is not closed.'],
    ['final', 'All files would be called alike: put in one of {project}, {shot}, {colourway}, {n}, {date}.'],
  ])('%s is refused: %s', (pattern, said) => {
    expect(patternFault(pattern)).toBe(said);
    expect(NamePattern.safeParse(pattern).error?.issues[0]?.message).toBe(said);
  });
  it('makes a name that every file system takes, whatever it is made of', () => {
    const part = fc.oneof(
      fc.constantFrom(...NAME_WORDS.map((w) => `{${w}}`)),
      fc.string({ maxLength: 9, unit: 'binary' }),
    );
    const named = fc.record({ project: fc.string(), shot: fc.string({ maxLength: 200 }), colourway: fc.string() });
    fc.assert(
      fc.property(fc.array(part, { maxLength: 8 }), named, (parts, more) => {
        const pattern = parts.join('');
        if (patternFault(pattern)) return;
        expect(nameAfter(pattern, { ...words, ...more })).toMatch(/^\w[\w.-]{0,169}$/);
      }),
      { numRuns: 1000 },
    );
  });
});
