// What strokes' colours say of others, on pictures of few colours.
import { describe, expect, it } from 'vitest';
import { seededRandom } from '../track/random.ts';
import { colourOdds } from './colourOdds.ts';

type Lab = readonly [number, number, number];
const RED: Lab = [0.5, 0.15, 0.08];
const BLUE: Lab = [0.5, -0.02, -0.15];
const N = 400;
/** `of(i)` gives a pixel's colour; noise of 0.01 over it. */
function planes(of: (i: number) => Lab) {
  const random = seededRandom(1);
  const plane = (c: 0 | 1 | 2) => Float32Array.from({ length: N }, (_, i) => of(i)[c] + 0.02 * (random() - 0.5));
  return { L: plane(0), a: plane(1), b: plane(2) };
}
/** Pixels marked in and out, each from one to before another. */
const marks = (inside: readonly [number, number], outside: readonly [number, number] = [0, 0]) =>
  new Int8Array(N).fill(1, ...inside).fill(-1, ...outside);
const never = () => false;

describe('the odds of a colour', () => {
  const picture = planes((i) => (i < 200 ? RED : BLUE));
  const byStrokes = colourOdds(picture, marks([0, 100], [300, N]), never);
  it('are 4 at most, for what is marked in, and −4 for what is marked out', () => {
    expect(byStrokes(...RED)).toBeCloseTo(4, 2);
    expect(byStrokes(...BLUE)).toBeCloseTo(-4, 2);
  });
  it('lie between for what lies between', () => {
    const steps = Array.from({ length: 21 }, (_, k) => byStrokes(0.5, 0.15 - (0.17 * k) / 20, 0.08 - (0.23 * k) / 20));
    for (let k = 1; k < steps.length; k++) expect(steps[k]!).toBeLessThanOrEqual(steps[k - 1]! + 1e-9);
  });
  it('come from what lies far off where nothing is marked out', () => {
    const odds = colourOdds(picture, marks([0, 100]), (i) => i >= 300);
    expect([odds(...RED), odds(...BLUE)]).toEqual([expect.closeTo(4, 2), expect.closeTo(-4, 2)]);
  });
  it('are not those of what lies far off where something is marked out', () => {
    const odds = colourOdds(picture, marks([0, 100], [300, N]), (i) => i < 100);
    expect(odds(...RED)).toBeCloseTo(4, 2);
  });
  it('say nothing when both are of one colour, and little when they share half of theirs', () => {
    const plain = planes(() => RED);
    const halves = marks([0, 200], [200, N]);
    expect(Math.abs(colourOdds(plain, halves, never)(...RED))).toBeLessThan(0.1);
    // half of what is left out is red too
    const shared = colourOdds(picture, marks([0, 100], [100, 300]), never);
    expect(shared(...BLUE)).toBeLessThan(-1);
    expect(shared(...BLUE)).toBeGreaterThan(-3.5);
  });
  it('are all for the selection where there is nothing else', () => {
    expect(colourOdds(picture, marks([0, N]), never)(...BLUE)).toBe(4);
  });
});
