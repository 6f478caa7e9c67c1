// Which pixels strokes mark, worked by hand.
import type { Stroke } from '../document/layer.ts';
import { describe, expect, it } from 'vitest';
import { markedByStrokes, unsureArea } from './strokes.ts';

const [W, H] = [12, 8];
const stroke = (points: [number, number][], widthPx: number, sign: Stroke['sign'] = 'in'): Stroke => ({
  sign,
  widthPx,
  points,
});
/** Rows as text: # in, o out. */
const drawn = (strokes: Stroke[], scale = 1, w = W, h = H) => {
  const marks = markedByStrokes(strokes, w, h, scale);
  return Array.from({ length: h }, (_, y) =>
    Array.from(marks.subarray(y * w, (y + 1) * w), (v) => 'o.#'[v + 1]).join(''),
  );
};

describe('a stroke', () => {
  it('marks the pixels whose centres lie within half its width of it, round at its ends', () => {
    // rows 3 and 4 lie 0.5 from it: 1.41 beyond its ends still counts; rows 2 and 5 lie 1.5 from it
    expect(
      drawn([
        stroke(
          [
            [3, 4],
            [8, 4],
          ],
          3,
        ),
      ]),
    ).toEqual([
      '............',
      '............',
      '...#####....',
      '..#######...',
      '..#######...',
      '...#####....',
      '............',
      '............',
    ]);
  });
  it('of one point is a dot', () => {
    expect(drawn([stroke([[5.5, 3.5]], 2)])).toEqual([
      '............',
      '............',
      '.....#......',
      '....###.....',
      '.....#......',
      '............',
      '............',
      '............',
    ]);
  });
  it('is never so thin that it marks nothing', () => {
    expect(drawn([stroke([[5.5, 3.5]], 0.1)])[3]).toBe('.....#......');
    expect(
      drawn([stroke([[5, 4]], 0.1)])
        .join('')
        .match(/#/g)!.length,
    ).toBe(4);
  });
  it('goes through all its points, and stays on the picture', () => {
    const rows = drawn([
      stroke(
        [
          [-3, 0.5],
          [11.5, 0.5],
          [11.5, 20],
        ],
        1.5,
      ),
    ]);
    expect(rows[0]).toBe('############');
    expect(rows.slice(1).every((row) => row === '...........#')).toBe(true);
  });
  it('is laid over earlier ones', () => {
    const [inward, outward] = [
      stroke(
        [
          [2, 4],
          [10, 4],
        ],
        2,
      ),
      stroke(
        [
          [6.5, 0],
          [6.5, 8],
        ],
        1.5,
        'out',
      ),
    ];
    expect(drawn([inward, outward])[3]![6]).toBe('o');
    expect(drawn([outward, inward])[3]![6]).toBe('#');
  });
  it('is smaller on a smaller picture', () => {
    expect(drawn([stroke([[11, 7]], 4)], 0.5, 12, 8)).toEqual(drawn([stroke([[5.5, 3.5]], 2)]));
  });
});

describe('a stroke that goes round', () => {
  const round = (...points: [number, number][]) => stroke(points, 2, 'around');
  const square = round([2, 2], [10, 2], [10, 6], [2, 6]);
  it('marks all beyond it, closed by its ends', () =>
    expect(drawn([square])).toEqual([
      'oooooooooooo',
      'oooooooooooo',
      'oo........oo',
      'oo........oo',
      'oo........oo',
      'oo........oo',
      'oooooooooooo',
      'oooooooooooo',
    ]));
  it('leaves what any of several goes round, and is laid under the other strokes', () => {
    const other = round([0, 0], [2, 0], [2, 2], [0, 2]);
    const dot = stroke([[11, 1]], 1);
    const rows = drawn([dot, square, other]);
    expect(rows.map((row) => row.slice(0, 4))).toEqual([
      '..oo',
      '..oo',
      'oo..',
      'oo..',
      'oo..',
      'oo..',
      'oooo',
      'oooo',
    ]);
    expect(rows[1]![11]).toBe('#');
  });
  it('lies where it lay on a smaller picture', () => {
    const small = drawn([square], 0.5, 6, 4);
    expect(small).toEqual(['oooooo', 'o....o', 'o....o', 'oooooo']);
  });
});
describe('an unsure stroke', () => {
  const unsure = stroke([[4, 4]], 3, 'unsure');
  it('marks nothing in or out, and tells where it is', () => {
    expect(drawn([unsure]).join('')).not.toMatch(/[#o]/);
    const area = unsureArea([unsure], W, H, 1)!;
    expect([area[4 * W + 4], area[4 * W + 8]]).toEqual([1, 0]);
    expect(unsureArea([stroke([[4, 4]], 3)], W, H, 1)).toBeUndefined();
  });
});
