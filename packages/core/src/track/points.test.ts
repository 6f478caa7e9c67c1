// Corners found and followed, on pictures made here.
import { describe, expect, it } from 'vitest';
import { cornersIn } from './corners.ts';
import { followPoints } from './flow.ts';
import { pyramidOf } from './pyramid.ts';
import { after, pictureOf, pyramidOfLook, texture, type Look } from '../testing/texture.ts';

const [W, H] = [160, 120];
const own = texture(31);
const luma = pictureOf(own, W, H);
const level = { width: W, height: H, luma };
const BOX = { x0: 30, y0: 30, x1: 130, y1: 90 };
const listOf = (found: Float64Array) =>
  Array.from({ length: found.length / 2 }, (_, i) => [found[2 * i]!, found[2 * i + 1]!] as const);
/** The smaller eigenvalue of Σ g·gᵀ over 7 × 7 pixels, straight from its definition. */
function smallerEigenvalue(x: number, y: number): number {
  let [xx, xy, yy] = [0, 0, 0];
  for (let v = y - 3; v <= y + 3; v++)
    for (let u = x - 3; u <= x + 3; u++) {
      const i = v * W + u;
      const [gx, gy] = [(luma[i + 1]! - luma[i - 1]!) / 2, (luma[i + W]! - luma[i - W]!) / 2];
      xx += gx * gx;
      xy += gx * gy;
      yy += gy * gy;
    }
  return (xx + yy) / 2 - Math.sqrt(((xx - yy) / 2) ** 2 + xy * xy);
}

describe('corners', () => {
  it('are the peaks of the smaller eigenvalue, strongest first, spaced as asked', () => {
    const places = listOf(cornersIn(level, BOX, () => true, 25, 8));
    expect(places.length).toBe(25);
    const values = places.map(([x, y]) => smallerEigenvalue(x - 0.5, y - 0.5));
    for (let i = 1; i < values.length; i++) expect(values[i]!).toBeLessThanOrEqual(values[i - 1]! * 1.0001);
    for (const [i, [x, y]] of places.entries()) {
      expect([x >= 30, x <= 130, y >= 30, y <= 90]).toEqual([true, true, true, true]);
      for (const [u, v] of places.slice(0, i)) expect(Math.hypot(x - u, y - v)).toBeGreaterThanOrEqual(8);
      for (const [dx, dy] of [
        [1, 0],
        [-1, 0],
        [0, 1],
        [0, -1],
      ] as const)
        expect(smallerEigenvalue(x - 0.5 + dx, y - 0.5 + dy)).toBeLessThanOrEqual(values[i]! * 1.0001);
    }
    // the strongest place of the box comes first
    let strongest = 0;
    for (let y = 31; y < 89; y++)
      for (let x = 31; x < 129; x++) strongest = Math.max(strongest, smallerEigenvalue(x, y));
    expect(values[0]!).toBeCloseTo(strongest, 6);
  });
  it('are no more than asked for, and only where allowed', () => {
    expect(listOf(cornersIn(level, BOX, () => true, 4, 5)).length).toBe(4);
    const some = listOf(cornersIn(level, BOX, (x, y) => x < 60 && y > 50, 100, 5));
    expect(some.length).toBeGreaterThan(3);
    for (const [x, y] of some) expect([x < 60, y > 50]).toEqual([true, true]);
  });
  it('keep clear of the rim, whatever the box', () => {
    const places = listOf(cornersIn(level, { x0: -50, y0: -50, x1: 900, y1: 900 }, () => true, 2000, 3));
    expect(Math.min(...places.flat())).toBeGreaterThanOrEqual(5.5);
    expect([Math.max(...places.map((p) => p[0])) <= W - 5, Math.max(...places.map((p) => p[1])) <= H - 5]).toEqual([
      true,
      true,
    ]);
    expect(places.some(([x]) => x < 20) && places.some(([x]) => x > W - 20)).toBe(true);
  });
  it('there are none in a box of no size, none worth it on an edge or a flat ground', () => {
    expect(cornersIn(level, { x0: 50, y0: 50, x1: 52, y1: 90 }, () => true, 9, 5).length).toBe(0);
    const flat = { width: W, height: H, luma: new Float32Array(W * H).fill(0.4) };
    expect(cornersIn(flat, BOX, () => true, 9, 5).length).toBe(0);
    // an edge and one true corner: what lies along the edge is under 1/500 of the corner
    const edge: Look = (x, y) => (x > 80 && !(y > 60 && y < 75 && x < 95) ? 0.8 : 0.2);
    const places = listOf(cornersIn({ width: W, height: H, luma: pictureOf(edge, W, H) }, BOX, () => true, 50, 5));
    expect(places.length).toBeGreaterThan(0);
    for (const [x, y] of places) expect([x > 70, x < 105, y > 50, y < 85]).toEqual([true, true, true, true]);
  });
});

describe('points followed', () => {
  const from = pyramidOfLook(own, W, H);
  const points = Float64Array.of(40, 40, 80, 60, 110, 75, 62.25, 48.5);
  const followed = (to: Look, guesses = points) => followPoints(from, pyramidOfLook(to, W, H), points, guesses);
  it('go where the picture went, to a twentieth of a pixel, far ones by the pyramid', () => {
    for (const [dx, dy] of [
      [0.4, -0.3],
      [3.2, 2.1],
      [-9, 6],
    ] as const) {
      const { places, kept } = followed(after([1, 0, dx, 0, 1, dy, 0, 0, 1], own));
      expect([...kept]).toEqual([1, 1, 1, 1]);
      places.forEach((v, i) => expect(Math.abs(v - points[i]! - (i % 2 ? dy : dx))).toBeLessThan(0.05));
    }
  });
  it('that were guessed well are found beyond the reach of the search', () => {
    const to = after([1, 0, -25, 0, 1, 12, 0, 0, 1], own);
    const guesses = points.map((v, i) => v + (i % 2 ? 11 : -24));
    const { places, kept } = followed(to, guesses);
    expect([...kept].slice(1)).toEqual([1, 1, 1]);
    for (const i of [2, 4, 6])
      expect(Math.hypot(places[i]! - points[i]! + 25, places[i + 1]! - points[i + 1]! - 12)).toBeLessThan(0.05);
  });
  it('that do not come back are dropped: the picture is another, flat, or ends there', () => {
    // one in four may come back by chance
    expect(followed(texture(77)).kept.reduce((n, k) => n + k, 0)).toBeLessThanOrEqual(1);
    expect([...followPoints(pyramidOf(new Float32Array(W * H).fill(0.5), W, H), from, points, points).kept]).toEqual([
      0, 0, 0, 0,
    ]);
    const rim = Float64Array.of(4, 60, 156, 60, 80, 3, 80, 117, 80, 60);
    expect([...followPoints(from, from, rim, rim).kept]).toEqual([0, 0, 0, 0, 1]);
    const { kept } = followed(
      after([1, 0, -38, 0, 1, 0, 0, 0, 1], own),
      points.map((v, i) => v - (i % 2 ? 0 : 38)),
    );
    expect([...kept]).toEqual([0, 1, 1, 1]);
  });
});
