// What a brush paints, worked by hand: areas of discs and stadiums, and what strokes make of one another.
import { describe, expect, it } from 'vitest';
import { gaussianInPlace } from '../matte/gaussian.ts';
import type { BrushLayer, BrushPoint, BrushStroke, Layer, ShapeLayer } from '../document/layer.ts';
import type { LayerMatte, MatteSource } from '../matte/kind.ts';
import { layerMatteInto, stackMatteInto } from '../matte/stack.ts';
import { supportOf } from '../matte/support.ts';
import { PLAIN_LAYER } from '../testing/layers.ts';
import { brushMatteInto } from './brushMatte.ts';

const [W, H] = [64, 48];
const stroke = (points: BrushPoint[], changed: Partial<BrushStroke> = {}): BrushStroke => ({
  sign: 'in',
  widthPx: 20,
  softness: 0,
  flow: 1,
  points,
  ...changed,
});
const painted = (strokes: BrushStroke[], scale = 1): Float32Array => {
  const out = new Float32Array(W * scale * H * scale).fill(7);
  brushMatteInto(out, W * scale, H * scale, strokes, scale);
  return out;
};
const sum = (alpha: Float32Array) => alpha.reduce((a, b) => a + b, 0);
/** A rim is a pixel wide: areas are within that pixel's share. */
const isArea = (alpha: Float32Array, area: number) => expect(Math.abs(sum(alpha) / area - 1)).toBeLessThan(0.012);
const at = (alpha: Float32Array, x: number, y: number) => alpha[y * W + x]!;

describe('one stroke', () => {
  it('of a single point is a disc, of two a stadium: their areas', () => {
    // πr² = 314.2; with a straight stretch of 20 px, 20 × 20 more
    isArea(painted([stroke([[32, 24, 1]])]), Math.PI * 100);
    const two = stroke([
      [22, 24, 1],
      [42, 24, 1],
    ]);
    isArea(painted([two]), Math.PI * 100 + 400);
  });
  it('is as wide as it is pressed, and grows along the way', () => {
    isArea(painted([stroke([[32, 24, 0.5]])]), Math.PI * 25);
    // a cone from radius 10 to 5 over 20 px is 20 × (10 + 5) wide between its two half discs
    const cone = painted([
      stroke([
        [20, 24, 1],
        [40, 24, 0.5],
      ]),
    ]);
    const wideAt = (x: number) => Array.from({ length: H }, (_, y) => at(cone, x, y)).reduce((a, b) => a + b, 0);
    expect([wideAt(20), wideAt(30), wideAt(39)].map(Math.round)).toEqual([20, 15, 10]);
  });
  it('is half at the middle of its soft edge, whole before it and nothing at its rim', () => {
    const soft = painted([stroke([[32.5, 24.5, 1]], { softness: 0.6 })]);
    expect([0, 4, 7, 10].map((d) => at(soft, 32 + d, 24))).toEqual([1, 1, 0.5, 0]);
  });
  it('is not laid on twice where it crosses itself, another is', () => {
    const half = { flow: 0.5 };
    const there = stroke(
      [
        [10, 24, 1],
        [50, 24, 1],
        [10, 24, 1],
      ],
      half,
    );
    expect(at(painted([there]), 30, 24)).toBe(0.5);
    expect(at(painted([there, there]), 30, 24)).toBe(0.75);
  });
  it('is the same at any size: of a picture twice as large every 2 × 2 pixels are one', () => {
    const wavy = [
      stroke(
        [
          [9, 9, 0.4],
          [30, 31, 1],
          [55, 12, 0.7],
        ],
        { softness: 0.5 },
      ),
    ];
    const [small, large] = [painted(wavy), painted(wavy, 2)];
    for (let y = 0; y < H; y++)
      for (let x = 0; x < W; x++) {
        const of = [0, 1].flatMap((j) => [0, 1].map((i) => large[(2 * y + j) * 2 * W + 2 * x + i]!));
        expect(Math.abs(at(small, x, y) - of.reduce((a, b) => a + b, 0) / 4)).toBeLessThan(0.06);
      }
  });
  it('may lie outside the picture', () => {
    expect(sum(painted([stroke([[-100, -100, 1]])]))).toBe(0);
    isArea(painted([stroke([[0, 24, 1]])]), (Math.PI * 100) / 2);
  });
});

describe('strokes one after the other', () => {
  const disc = stroke([[32, 24, 1]], { widthPx: 30 });
  it('what is taken away is gone, by its flow', () => {
    const out = (flow: number) => stroke([[32, 24, 1]], { sign: 'out', widthPx: 10, flow });
    expect(at(painted([disc, out(1)]), 32, 24)).toBe(0);
    expect(at(painted([disc, out(0.25)]), 32, 24)).toBe(0.75);
    expect(at(painted([out(1), disc]), 32, 24)).toBe(1);
  });
  it('smoothing takes α to its blur, where it passes and nowhere else', () => {
    const before = painted([disc]);
    const smoothed = painted([disc, stroke([[47, 24, 1]], { sign: 'smooth', widthPx: 16 })]);
    const blurred = before.slice();
    // a quarter of the radius of 8 px
    gaussianInPlace(blurred, W, H, 2);
    expect(at(smoothed, 47, 24)).toBeCloseTo(at(blurred, 47, 24), 3);
    expect(at(smoothed, 46, 22)).toBeCloseTo(at(blurred, 46, 22), 3);
    expect(at(smoothed, 17, 24)).toBe(at(before, 17, 24));
  });
});

describe('a painted layer in a stack', () => {
  const layer = (strokes: BrushStroke[], more: Partial<BrushLayer> = {}): BrushLayer => ({
    ...PLAIN_LAYER,
    kind: 'brush',
    strokes,
    ...more,
  });
  const above: ShapeLayer = {
    ...PLAIN_LAYER,
    kind: 'shape',
    geometry: { form: 'rectangle', cx: 32, cy: 24, width: 20, height: 20, turnDeg: 0 },
    feather: { innerPx: 0, outerPx: 6, falloff: 'smooth' },
  };
  const source = { width: W, height: H, scale: 1 } as MatteSource;
  const matteOf: LayerMatte = (each) => {
    const out = new Float32Array(W * H);
    layerMatteInto(out, each, source, matteOf);
    return out;
  };
  const stacked = (layers: Layer[]) => {
    const out = new Float32Array(W * H);
    stackMatteInto(out, layers, matteOf);
    return out;
  };
  it('paints over what lies above it: as if every stroke were laid on the stack itself', () => {
    const [into, out] = [
      stroke([[24, 24, 1]], { flow: 0.7, softness: 0.5 }),
      stroke([[36, 24, 1]], { sign: 'out', flow: 0.6 }),
    ];
    const [base, a, b] = [stacked([above]), painted([into]), painted([{ ...out, sign: 'in' }])];
    const now = stacked([above, layer([into, out, into])]);
    for (let i = 0; i < now.length; i++) {
      const once = base[i]! + (1 - base[i]!) * a[i]!;
      const less = once * (1 - b[i]!);
      expect(now[i]).toBeCloseTo(less + (1 - less) * a[i]!, 5);
    }
    const half = stacked([above, layer([out], { strength: 0.5 })]);
    expect(at(half, 36, 24)).toBeCloseTo(at(base, 36, 24) * 0.7, 6);
  });
  it('joins as any other where it keeps within or takes away', () => {
    const disc = stroke([[32, 24, 1]]);
    const within = stacked([above, layer([disc], { mode: 'within' })]);
    const without = stacked([above, layer([disc], { mode: 'without' })]);
    expect([at(within, 32, 24), at(within, 23, 15), at(without, 32, 24), at(without, 23, 15)]).toEqual([1, 0, 0, 1]);
  });
  it('is looked for only where it was painted', () => {
    const strokes = [stroke([[10, 10, 1]]), stroke([[40, 20, 1]], { widthPx: 4 })];
    expect(supportOf([layer(strokes)], W, H, 1)).toEqual({ x0: 0, y0: 0, x1: 43, y1: 23 });
    expect(supportOf([layer([stroke([[-99, 0, 1]])])], W, H, 1)).toBeUndefined();
  });
});
