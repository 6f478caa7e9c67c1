import { expect, it } from 'vitest';
import { typedNumber } from './typedNumber.ts';

it.each([
  ['80', 80],
  [' -0,25 ', -0.25],
  ['−3', -3],
  ['.5', 0.5],
  ['2+3', 5],
  ['2 + 3 * 4', 14],
  ['(7-1)/4', 1.5],
  ['-(2-5)', 3],
  ['*1.1', 44],
  ['/ 8', 5],
  ['+5', 5],
])('%s, typed over 40, is %f', (text, number) => expect(typedNumber(text, 40)).toBeCloseTo(number, 12));

it.each(['', '  ', 'abc', '2+', '1/0', '2**3', '1;2', '"3"', 'alert(1)', '[1]', '1 2', '5 % 3', '*'])(
  '%s is no number',
  (text) => expect(typedNumber(text, 40)).toBeUndefined(),
);
it('goes on from a value below nothing', () => expect(typedNumber('*2', -3)).toBe(-6));
