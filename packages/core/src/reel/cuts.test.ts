import { describe, expect, it } from 'vitest';
import { findCuts, frameLook, unlikeness, type FrameLook } from './cuts.ts';

const [W, H] = [64, 36];
/** A scene of coloured blocks of its own, seen from a place, with grain. */
function frame(scene: number, at = 0, { lit = 1, grain = 4 } = {}): FrameLook {
  const rgb = new Uint8Array(3 * W * H);
  let seed = 1 + scene * 7919 + Math.round(at * 104_729);
  const random = () => (seed = (seed * 48_271) % 2_147_483_647) / 2_147_483_647;
  for (let i = 0; i < W * H; i++) {
    const [x, y] = [(i % W) + at, Math.floor(i / W)];
    const block = Math.floor(x / 9) * 31 + Math.floor(y / 7) * 17 + scene * 101;
    for (let c = 0; c < 3; c++) {
      const tone = ((block * (73 + 29 * c)) % 200) + 20;
      rgb[3 * i + c] = Math.min(Math.max(lit * tone + grain * (random() - 0.5) * 2, 0), 255);
    }
  }
  return frameLook(rgb, W, H);
}
const still = (scene: number, frames: number) => Array.from({ length: frames }, (_, i) => frame(scene, i * 0.2));
const at = (looks: FrameLook[]) => findCuts(looks).map((c) => c.frame);

describe('a frame', () => {
  it('is like itself, and as unlike as can be to its opposite', () => {
    const [black, white] = [0, 255].map((v) => frameLook(new Uint8Array(3 * W * H).fill(v), W, H)) as [
      FrameLook,
      FrameLook,
    ];
    expect(unlikeness(black, black)).toBe(0);
    expect(unlikeness(black, white)).toBeCloseTo(1, 4);
    expect(unlikeness(frame(1), frame(1, 0.01))).toBeLessThan(0.05);
  });
  it('has shares that add up to 1 and means between 0 and 1, whatever its size', () => {
    for (const [w, h] of [
      [1, 1],
      [3, 2],
      [W, H],
    ] as const) {
      const { histogram, tiles } = frameLook(new Uint8Array(3 * w * h).fill(200), w, h);
      expect(histogram.reduce((a, b) => a + b, 0)).toBeCloseTo(1, 4);
      expect(Math.min(...tiles)).toBeGreaterThanOrEqual(0);
      expect(Math.max(...tiles)).toBeCloseTo(200 / 255, 5);
    }
    expect(() => frameLook(new Uint8Array(5), 2, 1)).toThrow('rgb holds 5 bytes, 2 × 1 has 6');
  });
});

describe('cuts', () => {
  it('are the first frames of new scenes, surely', () => {
    const found = findCuts([...still(1, 20), ...still(2, 30), ...still(3, 15)]);
    expect(found.map((c) => c.frame)).toEqual([20, 50]);
    for (const { certainty } of found) expect(certainty).toBeGreaterThan(0.8);
  });
  it('are none in a scene that stands, moves fast, or gets darker', () => {
    expect(at(still(1, 40))).toEqual([]);
    expect(at(Array.from({ length: 40 }, (_, i) => frame(1, i * 5)))).toEqual([]);
    expect(at(Array.from({ length: 40 }, (_, i) => frame(1, 0, { lit: 1 - i / 50 })))).toEqual([]);
  });
  it('are none where a flash or something before the lens is gone again', () => {
    for (const long of [1, 2, 3]) {
      const looks = still(1, 40);
      for (let k = 0; k < long; k++) looks[20 + k] = frame(1, (20 + k) * 0.2, { lit: 1.9 });
      expect([long, at(looks)]).toEqual([long, []]);
      for (let k = 0; k < long; k++) looks[20 + k] = frame(9, 0);
      expect([long, at(looks)]).toEqual([long, []]);
    }
  });
  it('are none in a dissolve', () => {
    const mixed = Array.from({ length: 13 }, (_, i) => {
      const [a, b] = [frame(1), frame(2)];
      const mix = (x: Float32Array, y: Float32Array) => x.map((v, k) => v + ((y[k]! - v) * i) / 12);
      return { histogram: mix(a.histogram, b.histogram), tiles: mix(a.tiles, b.tiles) };
    });
    expect(at([...still(1, 20), ...mixed, ...still(2, 20)])).toEqual([]);
  });
  it('are found out of a fast pan too, and near the ends', () => {
    const pan = Array.from({ length: 20 }, (_, i) => frame(1, i * 2));
    expect(at([...pan, ...still(2, 20)])).toEqual([20]);
    expect(at([...still(1, 5), ...still(2, 5)])).toEqual([5]);
    expect(at([])).toEqual([]);
    expect(at(still(1, 1))).toEqual([]);
  });
});
