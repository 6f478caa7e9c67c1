import { expect, it } from 'vitest';
import { clfText } from './clf.ts';
import { cubeOf, type Cube } from './cube.ts';
import { cubeAt } from './cubeAt.ts';

/** The table of cube.test.ts. */
const bent = cubeOf('A "bent" <one> & only', 5, (rgb) => {
  const [r, g, b] = [rgb[0]!, rgb[1]!, rgb[2]!];
  rgb[0] = 0.9 * r * r + 0.1 * b;
  rgb[1] = Math.sqrt(g) * 0.8 + 0.15 * r * b;
  rgb[2] = b * (1 - 0.3 * r) + 0.05 * g;
});
const text = clfText(bent, 'urn:uuid:1');
/** The entries of the one array, blue fastest as the format has them, as a table of ours, red fastest. */
function tableIn(clf: string): Cube {
  const [, dim, entries] = /<Array dim="(\d+) \1 \1 3">\n([^<]*)<\/Array>/.exec(clf)!;
  const size = Number(dim);
  const read = entries!
    .trim()
    .split('\n')
    .map((line) => line.split(' ').map(Number));
  const own = cubeOf('', size, () => undefined);
  read.forEach((entry, k) => {
    const [r, g, b] = [Math.floor(k / size ** 2), Math.floor(k / size) % size, k % size];
    own.values.set(entry, 3 * (r + size * (g + size * b)));
  });
  expect(read).toHaveLength(size ** 3);
  return own;
}

it('is well-formed, and says what it is', () => {
  expect(text).toContain(
    '<ProcessList id="urn:uuid:1" name="A &quot;bent&quot; &lt;one&gt; &amp; only" compCLFversion="3.0">',
  );
  expect(text).toContain('<LUT3D id="table" inBitDepth="32f" outBitDepth="32f" interpolation="tetrahedral">');
  expect(clfText({ ...bent, title: 'a\u0001b' }, 'x')).toContain('name="a b"');
});
// what `ociochecklut` of OpenColorIO 2.1.2 prints for this very text
it.each([
  [
    [0.1, 0.2, 0.3],
    [0.0525, 0.325625, 0.29875],
  ],
  [
    [0.33, 0.9, 0.51],
    [0.16125, 0.7826279, 0.5039999],
  ],
  [
    [0.6, 0.1, 0.9],
    [0.4275, 0.2425, 0.74],
  ],
])('makes of %j what OpenColorIO does', (codes, wanted) => {
  const rgb = Float64Array.from(codes);
  cubeAt(tableIn(text))(rgb);
  [...rgb].forEach((v, c) => expect(v).toBeCloseTo(wanted[c]!, 5));
});
it('is not written of a table it cannot hold', () => {
  const domain: Cube['domain'] = { min: [0, 0, 0], max: [2, 1, 1] };
  expect(() => clfText({ ...bent, domain }, 'x')).toThrow(RangeError);
  expect(() => clfText({ ...bent, kind: '1D' }, 'x')).toThrow(RangeError);
});
