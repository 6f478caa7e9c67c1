// The light a recoloured piece throws on a marked floor, against the formula worked by hand.
import { describe, expect, it } from 'vitest';
import type { LinearPlanes } from '../colour/planes.ts';
import { bounceInto } from './bounceInto.ts';

const [W, H] = [80, 100];
const plane = (v: number) => new Float32Array(W * H).fill(v);
/** A box of 20 × 40, from (30, 20) to (50, 60). */
const alpha = Float32Array.from({ length: W * H }, (_, i) => {
  const [x, y] = [i % W, Math.floor(i / W)];
  return x >= 30 && x < 50 && y >= 20 && y < 60 ? 1 : 0;
});
const within = {
  geometry: { form: 'rectangle' as const, cx: 40, cy: 80, width: 80, height: 40, turnDeg: 0 },
  feather: { innerPx: 0, outerPx: 0, falloff: 'linear' as const },
};
const before: LinearPlanes = { r: plane(0.2), g: plane(0.3), b: plane(0.4) };
/** The box becomes redder by 0.4 and less blue by 0.2. */
const bounced = (amount: number, scale = 1) => {
  const out = { r: plane(0.2), g: plane(0.3), b: plane(0.4) };
  alpha.forEach((a, i) => {
    out.r[i] = out.r[i]! + 0.4 * a;
    out.b[i] = out.b[i]! - 0.2 * a;
  });
  return { out, at: bounceInto(out, before, alpha, W, { within, amount }, scale) };
};

describe('a bounce', () => {
  it('is the share of its change that a wall of the piece’s height throws on the floor', () => {
    const { out } = bounced(1);
    for (const y of [61, 65, 75]) {
      const i = y * W + 40;
      // 59.5 is the middle of the box's last row; the change blurred over itself stays the change
      const X = (y - 59) / 0.6;
      const k = 0.3 * 0.5 * (1 - X / Math.hypot(X, 40));
      expect(out.r[i]! / 0.2).toBeCloseTo(1 + k * 0.4, 2);
      expect(out.b[i]! / 0.4).toBeCloseTo(1 - k * 0.2, 2);
      expect(out.g[i]).toBe(Math.fround(0.3));
    }
  });
  it('falls off with distance and grows with its amount', () => {
    const [full, half] = [bounced(1).out, bounced(0.5).out];
    const gain = (of: LinearPlanes, y: number) => of.r[y * W + 40]! / 0.2 - 1;
    expect(gain(full, 62)).toBeGreaterThan(1.3 * gain(full, 85));
    expect(gain(half, 65) / gain(full, 65)).toBeCloseTo(0.5, 3);
  });
  it('touches the marked part alone, and nothing of the piece', () => {
    const { out, at } = bounced(1);
    for (let i = 0; i < W * H; i++) {
      const isMarked = i >= 60 * W;
      expect(at![i]! > 0).toBe(isMarked);
      if (!isMarked && alpha[i] === 0) expect(out.r[i]).toBe(Math.fround(0.2));
    }
  });
  it('there is none without a piece', () => {
    const out = { r: plane(0.2), g: plane(0.3), b: plane(0.4) };
    expect(bounceInto(out, before, plane(0.3), W, { within, amount: 1 }, 1)).toBeUndefined();
  });
});
