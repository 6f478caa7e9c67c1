import { describe, expect, it } from 'vitest';
import { linear709FromLab } from '../colour/lab.ts';
import { seededRandom } from '../testing/mattes.ts';
import { textureFigures, textureWarnings } from './textureFigures.ts';

const [W, H] = [64, 48];
const all = new Float32Array(W * H).fill(1);
const normal = (random: () => number) => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
/** A surface given in CIELAB by place, with grain of a standard deviation in L*. */
function surface(lab: (x: number, y: number) => [number, number, number], grain: number, seed = 1) {
  const random = seededRandom(seed);
  const planes = { r: new Float32Array(W * H), g: new Float32Array(W * H), b: new Float32Array(W * H) };
  for (let i = 0; i < W * H; i++) {
    const [L, a, b] = lab(i % W, Math.floor(i / W));
    const rgb = linear709FromLab({ L: L + grain * normal(random), a, b });
    [planes.r[i], planes.g[i], planes.b[i]] = rgb;
  }
  return planes;
}
const plain = (): [number, number, number] => [50, 20, 10];

describe('the figures of a surface', () => {
  it('say how much stronger its grain has become', () => {
    const figures = textureFigures(surface(plain, 1, 1), surface(plain, 2, 2), all, W, 1)!;
    expect(figures.noise).toBeGreaterThan(1.85);
    expect(figures.noise).toBeLessThan(2.15);
  });
  it('tell grain from weave and from slopes: those leave no second difference', () => {
    const sloped = (x: number, y: number): [number, number, number] => [30 + 0.5 * x + 0.2 * y, 20, 10];
    const figures = textureFigures(surface(sloped, 1, 1), surface(plain, 1, 2), all, W, 1)!;
    expect(figures.noise).toBeGreaterThan(0.9);
    expect(figures.noise).toBeLessThan(1.1);
  });
  it('say how much of the contrast of its weave is left, whatever its lightness', () => {
    const woven =
      (L: number, by: number) =>
      (x: number): [number, number, number] => [L + by * Math.sin(x * 1.2), 0, 0];
    // the same weave in light: luminance goes by the cube of lightness, about
    const same = textureFigures(surface(woven(60, 6), 0), surface(woven(30, 3), 0), all, W, 1)!;
    expect(same.localContrast).toBeGreaterThan(0.8);
    expect(same.localContrast).toBeLessThan(1.1);
    const flat = textureFigures(surface(woven(60, 6), 0), surface(woven(60, 2), 0), all, W, 1)!;
    expect(flat.localContrast).toBeCloseTo(1 / 3, 1);
  });
  it('say by how much highlights have another hue than the body', () => {
    const lit =
      (turned: boolean) =>
      (x: number, y: number): [number, number, number] =>
        y < 5 ? [80, turned ? 0 : 20, 20] : [50, 20, x % 2 ? 20 : 20];
    const figures = textureFigures(surface(lit(false), 0), surface(lit(true), 0), all, W, 1)!;
    expect(figures.highlightTurnBefore).toBeCloseTo(0, 1);
    expect(figures.highlightTurnAfter).toBeGreaterThan(35);
  });
  it('are of what the matte selects, and of nothing where it is too thin', () => {
    const half = all.map((_, i) => (i % W < W / 2 ? 1 : 0));
    const beside = (x: number, y: number): [number, number, number] => (x < W / 2 ? plain() : [y % 2 ? 90 : 5, 0, 0]);
    const figures = textureFigures(surface(plain, 1, 1), surface(beside, 1, 2), Float32Array.from(half), W, 1)!;
    expect(figures.noise).toBeLessThan(1.2);
    const thin = Float32Array.from(all, (_, i) => (i % W === 5 ? 1 : 0));
    expect(textureFigures(surface(plain, 1), surface(plain, 1), thin, W, 1)).toBeUndefined();
    expect(textureFigures(surface(plain, 1), surface(plain, 1), new Float32Array(W * H), W, 1)).toBeUndefined();
  });
});
describe('warnings', () => {
  const fine = { localContrast: 1, highlightTurnBefore: 0, highlightTurnAfter: 5, noise: 1.2 };
  it('are given for grain, flatness, hardness and highlights, and for nothing that is fine', () => {
    expect(textureWarnings(fine)).toEqual([]);
    expect(textureWarnings({ ...fine, noise: 1.6 })).toEqual([expect.stringContaining('Grain is 1.6 times')]);
    expect(textureWarnings({ ...fine, localContrast: 0.5 })).toEqual([expect.stringContaining('flat')]);
    expect(textureWarnings({ ...fine, localContrast: 1.7 })).toEqual([expect.stringContaining('hard')]);
    expect(textureWarnings({ ...fine, highlightTurnAfter: -40 })).toEqual([expect.stringContaining('turn 40°')]);
  });
});
