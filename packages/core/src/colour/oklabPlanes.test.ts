import { expect, it } from 'vitest';
import { seededRandom } from '../testing/mattes.ts';
import { oklabFromLinear709 } from './oklab.ts';
import { cubeRootTable, oklabFromLinear709Into } from './oklabPlanes.ts';

it('over planes is what it is for each colour, in place too, whatever the length', () => {
  const random = seededRandom(11);
  const root = cubeRootTable();
  for (const length of [1, 2047, 2048, 2049, 5000]) {
    const plane = () => Float32Array.from({ length }, () => random() ** 3);
    const [r, g, b] = [plane(), plane(), plane()];
    const exact = Array.from(r, (_, i) => oklabFromLinear709([r[i]!, g[i]!, b[i]!]));
    const furthest = (got: { L: Float32Array; a: Float32Array; b: Float32Array }) =>
      exact.reduce(
        (most, e, i) => Math.max(most, ...(['L', 'a', 'b'] as const).map((k) => Math.abs(e[k] - got[k][i]!))),
        0,
      );
    const out = { L: new Float32Array(length), a: new Float32Array(length), b: new Float32Array(length) };
    oklabFromLinear709Into(out, r, g, b, root);
    expect(furthest(out)).toBeLessThan(2e-6);
    oklabFromLinear709Into({ L: r, a: g, b }, r, g, b, root);
    expect(furthest({ L: r, a: g, b })).toBeLessThan(2e-6);
  }
});
