import { expect, it } from 'vitest';
import { compile, makeTables, NEUTRAL_RECIPE, NEUTRAL_TRIM, REFERENCE_LIGHT, sourceFrame } from '@mellow/core';
import { splitPictures } from './split.ts';

const N = 24;
const body = { invariant: -2, direction: 1, confidence: 1, light: [1, 1, 1], slope: 1.7 } as const;
/** A teal body with a white highlight in its middle. */
const isLit = (i: number) => Math.abs((i % N) - 12) < 4 && Math.abs(Math.floor(i / N) - 12) < 4;
const code = (v: number) => Math.round(v * 65535);
const plane = (base: number) => Uint16Array.from({ length: N * N }, (_, i) => code(base + (isLit(i) ? 0.3 : 0)));
const frame = sourceFrame(
  { width: N, height: N, r: plane(0.05), g: plane(0.24), b: plane(0.23) },
  'linear709',
  1,
  makeTables(),
);
const alpha = new Float32Array(N * N).fill(1);
const repaint = { ...NEUTRAL_RECIPE, repaint: { on: true, sheen: 1 } };
const I = (r: number, g: number, b: number) => 1.7 * Math.log(r / g) + Math.log(b / g);
const program = compile(repaint, REFERENCE_LIGHT, NEUTRAL_TRIM, {
  ...body,
  light: [...body.light],
  invariant: I(0.05, 0.24, 0.23),
  direction: -1,
});

it('shows the highlight as sheen, and the body under it as it is beside it', () => {
  const { body: own, sheen } = splitPictures(frame, alpha, program, N)!;
  const at = ({ rgba, width }: typeof own, x: number, y: number) => [
    ...rgba.subarray(4 * (y * width + x), 4 * (y * width + x) + 3),
  ];
  const [lit, plain] = [at(sheen, 12, 12), at(sheen, 2, 2)];
  expect(Math.min(...lit)).toBeGreaterThan(100);
  expect(Math.max(...plain)).toBeLessThan(40);
  at(own, 12, 12).forEach((v, c) => expect(Math.abs(v - at(own, 2, 2)[c]!)).toBeLessThan(40));
});
it('has nothing to show where sheen is not told apart, or the matte is empty', () => {
  expect(splitPictures(frame, alpha, compile(NEUTRAL_RECIPE), N)).toBeUndefined();
  expect(splitPictures(frame, new Float32Array(N * N), program, N)).toBeUndefined();
});
