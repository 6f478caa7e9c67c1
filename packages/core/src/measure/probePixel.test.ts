import { expect, it } from 'vitest';
import { renderFrame } from '../pipeline/renderFrame.ts';
import { makeTables, sourceFrame } from '../pipeline/sourceFrame.ts';
import { probePixel } from './probePixel.ts';
import { shiftProgram } from '../testing/recipes.ts';
import { PLAIN_LAYER } from '../testing/layers.ts';

const tables = makeTables();
const [W, H] = [8, 4];
const plane = (of: (x: number, y: number) => number) =>
  Uint8Array.from({ length: W * H }, (_, i) => of(i % W, Math.floor(i / W)));
const source = sourceFrame(
  { width: W, height: H, r: plane((x) => 10 * x), g: plane((_, y) => 20 * y), b: plane(() => 200) },
  'srgb',
  0.5,
  tables,
);
const layers = [
  {
    ...PLAIN_LAYER,
    kind: 'shape' as const,
    geometry: { form: 'rectangle' as const, cx: 8, cy: 4, width: 8, height: 8, turnDeg: 0 },
    feather: { innerPx: 0, outerPx: 0, falloff: 'linear' as const },
  },
];
const rendered = renderFrame(source, [{ layers, program: shiftProgram({ saturation: 0 }) }], tables);

it('reads the pixel under a place of the full picture: codes, light, α, before and after', () => {
  const inside = probePixel(source, rendered, 0, 9, 5)!;
  expect(inside.before.codes).toEqual([40, 40, 200]);
  expect(inside.before.linear[2]).toBeCloseTo(0.5776, 4); // sRGB 200
  expect(inside.alpha).toBe(1);
  // without saturation all three channels meet
  const [r, g, b] = inside.after!.codes;
  expect(Math.max(r, g, b) - Math.min(r, g, b)).toBeLessThanOrEqual(1);
  expect(inside.oklab.b).toBeLessThan(-0.1);
  const outside = probePixel(source, rendered, 0, 1, 1)!;
  expect([outside.alpha, outside.after!.codes]).toEqual([0, outside.before.codes]);
});
it('has no result where none was rendered, no α without a sighting, and nothing outside the picture', () => {
  expect(probePixel(source, undefined, 0, 2, 2)).toMatchObject({ after: undefined, alpha: undefined });
  expect(probePixel(source, rendered, -1, 2, 2)!.alpha).toBeUndefined();
  for (const [x, y] of [
    [-1, 0],
    [0, -0.1],
    [16, 0],
    [0, 8],
  ] as const)
    expect(probePixel(source, rendered, 0, x, y)).toBeUndefined();
});
