import { expect, it } from 'vitest';
import { oklabFromLinear709 } from '../colour/oklab.ts';
import { colourDensity, FIELD_SIZE, HISTOGRAM_BINS } from './colourDensity.ts';

const repeated = (value: number, n: number) => new Float32Array(n).fill(value);
function flat(rgb: [number, number, number], n: number) {
  const lab = oklabFromLinear709(rgb);
  const planes = { r: repeated(rgb[0], n), g: repeated(rgb[1], n), b: repeated(rgb[2], n) };
  return { oklab: { L: repeated(lab.L, n), a: repeated(lab.a, n), b: repeated(lab.b, n) }, planes, lab };
}

it('puts a colour into its cell of the a, b plane, b upwards, in its own colour', () => {
  const { oklab, planes, lab } = flat([0.02, 0.22, 0.24], 400);
  const { rgba } = colourDensity(oklab, planes, planes);
  const cells = Array.from({ length: FIELD_SIZE ** 2 }, (_, i) => i).filter((i) => rgba[4 * i + 3]! > 0);
  const x = Math.floor(((lab.a / 0.32 + 1) / 2) * FIELD_SIZE);
  const y = Math.floor(((1 - lab.b / 0.32) / 2) * FIELD_SIZE);
  expect(cells).toEqual([y * FIELD_SIZE + x]);
  // sRGB of linear 0.02, 0.22, 0.24: IEC 61966-2-1
  expect([...rgba.subarray(4 * cells[0]!, 4 * cells[0]! + 3)]).toEqual([39, 129, 134]);
});
it('counts every second pixel once in each histogram, ends included', () => {
  const { oklab, planes } = flat([1, 0.5, 0], 100);
  const { lightness, encoded } = colourDensity(
    oklab,
    { ...planes, b: repeated(-0.2, 100), r: repeated(1.4, 100) },
    planes,
  );
  for (const counts of [lightness, encoded.red, encoded.green, encoded.blue, encoded.luma])
    expect(counts.reduce((sum, n) => sum + n, 0)).toBe(50);
  expect([encoded.red[HISTOGRAM_BINS - 1], encoded.blue[0], encoded.green[HISTOGRAM_BINS / 2]]).toEqual([50, 50, 50]);
});
it('leaves out colours beyond the rim, and is more opaque where there are more', () => {
  const far = flat([0, 1, 0], 50);
  far.oklab.a.fill(0.5);
  expect(Math.max(...colourDensity(far.oklab, far.planes, far.planes).rgba)).toBe(0);
  const opacity = (n: number) => {
    const { oklab, planes } = flat([0.3, 0.3, 0.3], n);
    return Math.max(...colourDensity(oklab, planes, planes).rgba.filter((_, j) => j % 4 === 3));
  };
  expect(opacity(2)).toBeLessThan(opacity(40));
  expect(opacity(40)).toBeLessThan(opacity(2000));
});
