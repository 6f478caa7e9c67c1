import { expect, it } from 'vitest';
import { meterMatte } from './meter.ts';

/** A matte drawn in signs: # is 1, + is 0.75, . is 0. */
function drawn(...rows: string[]) {
  const VALUES: Record<string, number> = { '#': 1, '+': 0.75, '-': 0.25, '.': 0 };
  const alpha = Float32Array.from(rows.join(''), (sign) => VALUES[sign]!);
  return { alpha, width: rows[0]!.length, height: rows.length };
}
const meter = (...rows: string[]) => {
  const { alpha, width, height } = drawn(...rows);
  return meterMatte(alpha, width, height, () => false);
};

it('counts regions that touch at corners as one island, and what they enclose as holes', () => {
  expect(meter('##.#', '#.#.', '....', '.#.#')).toMatchObject({ islands: 3, holes: 0 });
  expect(meter('.....', '.###.', '.#.#.', '.###.', '.....')).toMatchObject({ islands: 1, holes: 1 });
  // a hole is enclosed where the way out is through corners only
  expect(meter('.....', '.##..', '.#.#.', '..#..', '.....')).toMatchObject({ islands: 1, holes: 1 });
});
it('counts nothing as a hole that reaches any of the picture’s four borders', () => {
  for (const rows of [
    ['#.#', '#.#', '###'],
    ['###', '#.#', '#.#'],
    ['###', '#..', '###'],
    ['###', '..#', '###'],
    ['#####', '#####', '##...', '#####'],
    ['#####', '...##', '#####', '#####'],
  ])
    expect(meter(...rows)).toMatchObject({ holes: 0 });
  expect(meter('#####', '#.#.#', '#####')).toMatchObject({ holes: 2 });
});
it('tells shares: of the picture, of what is partly selected, of what is clipped among what is solid', () => {
  const { alpha, width, height } = drawn('##+-', '....');
  const found = meterMatte(alpha, width, height, (i) => i === 0 || i === 3);
  expect(found.shareOfPicture).toBeCloseTo(3 / 8, 9);
  expect(found.partlyShare).toBeCloseTo(2 / 4, 9);
  expect(found.clippedShare).toBeCloseTo(1 / 3, 9);
  expect(meter('..', '..')).toEqual({ shareOfPicture: 0, partlyShare: 0, islands: 0, holes: 0, clippedShare: 0 });
});
