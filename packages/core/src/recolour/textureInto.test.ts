import { describe, expect, it } from 'vitest';
import { luminanceOf } from '../colour/xyz.ts';
import { seededRandom, worst } from '../testing/mattes.ts';
import { outsideInto, outsideOf } from './outsideInto.ts';
import { compileOutside } from './finerProgram.ts';
import { tools } from '../testing/finer.ts';
import { textureInto } from './textureInto.ts';

const [WIDTH, HEIGHT] = [40, 30];
const N = WIDTH * HEIGHT;
const NONE = { softenPx: 0, colourPx: 0, sharpen: 0 };
const alpha = Float32Array.from({ length: N }, (_, i) => (i % WIDTH >= 8 && i % WIDTH < 30 ? 1 : 0));
const flat = (v: number) => new Float32Array(N).fill(v);
/** Fine stripes of colour, as moiré is, on a piece; the ground is bright red. */
const striped = () => {
  const of = (piece: (x: number) => number, ground: number) =>
    Float32Array.from({ length: N }, (_, i) => (alpha[i] ? piece(i % WIDTH) : ground));
  return {
    r: of((x) => 0.2 + 0.1 * (x % 2), 0.9),
    g: of(() => 0.2, 0.05),
    b: of((x) => 0.3 - 0.1 * (x % 2), 0.05),
  };
};
const spread = (plane: Float32Array) => {
  const inside = [...plane].filter((_, i) => i % WIDTH > 12 && i % WIDTH < 26);
  const mean = inside.reduce((a, b) => a + b) / inside.length;
  return Math.sqrt(inside.reduce((s, v) => s + (v - mean) ** 2, 0) / inside.length);
};

describe('softening inside', () => {
  it('takes fine stripes away, and no colour of the ground comes in', () => {
    const picture = striped();
    textureInto(picture, alpha, WIDTH, { ...NONE, softenPx: 3 }, 1, 1);
    expect(spread(picture.r)).toBeLessThan(0.002);
    const inside = [...picture.r].filter((_, i) => alpha[i] === 1);
    expect(Math.max(...inside)).toBeLessThan(0.29);
    const before = striped();
    picture.r.forEach((v, i) => alpha[i] === 0 && expect(v).toBe(before.r[i]));
  });
  it('of the colour alone keeps every pixel’s luminance', () => {
    const [picture, before] = [striped(), striped()];
    textureInto(picture, alpha, WIDTH, { ...NONE, colourPx: 3 }, 1, 1);
    const Y = ({ r, g, b }: typeof picture) => Float32Array.from(r, (v, i) => luminanceOf([v, g[i]!, b[i]!]));
    expect(worst(Y(picture), Y(before))).toBeLessThan(1e-6);
    const ratio = ({ r, g }: typeof picture) => spread(Float32Array.from(r, (v, i) => v / g[i]!));
    expect(ratio(picture)).toBeLessThan(0.05 * ratio(before));
  });
  it('is σ in full-resolution pixels, by strength', () => {
    const [half, plain] = [striped(), striped()];
    textureInto(half, alpha, WIDTH, { ...NONE, softenPx: 6 }, 0.5, 0.5);
    textureInto(plain, alpha, WIDTH, { ...NONE, softenPx: 3 }, 1, 1);
    const before = striped();
    half.r.forEach((v, i) => expect(v).toBeCloseTo((before.r[i]! + plain.r[i]!) / 2, 5));
  });
  it('at an edge is of the piece’s own colour: what is mixed in stays as it is', () => {
    const soft = Float32Array.from({ length: N }, (_, i) => Math.min(Math.max(((i % WIDTH) - 8) / 6, 0), 1));
    const [piece, ground] = [
      [0.1, 0.3, 0.2],
      [0.9, 0.05, 0.05],
    ] as const;
    const plane = (c: 0 | 1 | 2) => soft.map((a) => a * piece[c] + (1 - a) * ground[c]);
    const mixed = () => ({ r: plane(0), g: plane(1), b: plane(2) });
    const index = Uint32Array.from(soft.keys()).filter((i) => soft[i]! > 0 && soft[i]! < 1);
    const own = (c: 0 | 1 | 2) => new Float32Array(index.length).fill(piece[c]);
    const picture = mixed();
    const edge = { index, r: own(0), g: own(1), b: own(2) };
    textureInto(picture, soft, WIDTH, { softenPx: 2, colourPx: 3, sharpen: 0.5 }, 1, 1, edge);
    for (const c of ['r', 'g', 'b'] as const) expect(worst(picture[c], mixed()[c])).toBeLessThan(1e-5);
    const blind = mixed();
    textureInto(blind, soft, WIDTH, { ...NONE, colourPx: 3 }, 1, 1);
    expect(worst(blind.r, mixed().r)).toBeGreaterThan(0.02);
  });
  it('leaves a flat colour, and an empty matte, as they are', () => {
    const random = seededRandom(3);
    const soft = Float32Array.from({ length: N }, () => random());
    const picture = { r: flat(0.3), g: flat(0.2), b: flat(0.1) };
    textureInto(picture, soft, WIDTH, { softenPx: 4, colourPx: 4, sharpen: 1 }, 1, 1);
    expect(worst(picture.r, flat(0.3))).toBeLessThan(1e-6);
    const untouched = striped();
    textureInto(untouched, flat(0), WIDTH, { softenPx: 4, colourPx: 4, sharpen: 1 }, 1, 1);
    expect(untouched).toEqual(striped());
  });
  it('reaches into edges fainter than a half', () => {
    const faint = flat(0.3);
    const picture = striped();
    textureInto(picture, faint, WIDTH, { ...NONE, softenPx: 3 }, 1, 1);
    expect(worst(picture.r, striped().r)).toBeGreaterThan(0.01);
  });
});
it('sharpening widens fine steps and nothing else', () => {
  const picture = striped();
  textureInto(picture, alpha, WIDTH, { ...NONE, sharpen: 1 }, 1, 1);
  expect(spread(picture.r)).toBeGreaterThan(1.5 * spread(striped().r));
  expect(worst(picture.g, striped().g)).toBeLessThan(1e-6);
});

describe('outside', () => {
  it('is what no matte selects', () =>
    expect([...outsideOf([Float32Array.of(1, 0.25, 0), Float32Array.of(0, 0.5, 0)], 3)]).toEqual([0, 0.5, 1]));
  it('is corrected by its share, and the pieces are left bit for bit', () => {
    const program = compileOutside(tools({ outside: { primaries: { ...tools({}).primaries, exposureStops: 1 } } }))!;
    const picture = {
      r: Float32Array.of(0.1, 0.1, 0.1),
      g: Float32Array.of(0.2, 0.2, 0.2),
      b: Float32Array.of(0.3, 0.3, 0.3),
    };
    outsideInto(picture, Float32Array.of(0, 0.5, 1), program, 1);
    expect(picture.r[0]).toBe(Math.fround(0.1));
    [0.1, 0.15, 0.2].forEach((v, i) => expect(picture.r[i]).toBeCloseTo(v, 6));
    [0.3, 0.45, 0.6].forEach((v, i) => expect(picture.b[i]).toBeCloseTo(v, 6));
  });
});
