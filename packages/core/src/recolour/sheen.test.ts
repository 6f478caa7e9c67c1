// Sheen told from body on spheres made after Shafer's dichromatic model (1985), whose parts are known.
import { describe, expect, it } from 'vitest';
import type { Triple } from '../colour/matrix3.ts';
import { xyzFromLinear709 } from '../colour/xyz.ts';
import { seededRandom } from '../testing/mattes.ts';
import { compile, recoloured, repainted, REFERENCE_LIGHT } from './program.ts';
import { sheenOf } from './sheen.ts';
import { findSheenBody, sheenSamples } from './sheenBody.ts';
import { NEUTRAL_RECIPE, NEUTRAL_TRIM } from './shift.ts';

const [W, H] = [120, 120];
const luminance = (rgb: Triple) => xyzFromLinear709(rgb)[1];
const TEAL: Triple = [0.045, 0.24, 0.235];
const WARM: Triple = [1.25, 0.97, 0.55];

/**
 * A ball lit from the upper left, body and sheen kept apart; `mix` adds a second light of another colour from below.
 */
function ball(body: Triple, light: Triple, gloss: number, mix = 0, grain = 0) {
  const random = seededRandom(3);
  const planes = { r: new Float32Array(W * H), g: new Float32Array(W * H), b: new Float32Array(W * H) };
  const [alpha, sheen] = [new Float32Array(W * H), new Float32Array(W * H)];
  const Y = luminance(light);
  for (let i = 0; i < W * H; i++) {
    const [x, y] = [(((i % W) + 0.5) / W) * 2 - 1, ((Math.floor(i / W) + 0.5) / H) * 2 - 1];
    const r2 = (x * x + y * y) / 0.81;
    if (r2 > 1) continue;
    const n = [x / 0.9, y / 0.9, Math.sqrt(1 - r2)] as const;
    const toward = (l: readonly [number, number, number]) => Math.max(n[0] * l[0] + n[1] * l[1] + n[2] * l[2], 0);
    const shade = 0.15 + 0.85 * toward([-0.5, -0.5, 0.707]);
    const s = gloss * (0.02 + 0.9 * toward([-0.27, -0.27, 0.924]) ** 30);
    const other = mix * toward([0.1, 0.95, 0.3]);
    const second: Triple = [0.55, 0.9, 1.4];
    alpha[i] = 1;
    sheen[i] = s * Y;
    const at = (c: 0 | 1 | 2) =>
      body[c] * (shade * light[c] + other * second[c]) + s * light[c] + grain * (random() - 0.5);
    [planes.r[i], planes.g[i], planes.b[i]] = [at(0), at(1), at(2)];
  }
  return { planes, alpha, sheen };
}
const bodyOf = ({ planes, alpha }: ReturnType<typeof ball>, light?: Triple) =>
  findSheenBody(sheenSamples(planes, alpha, W, H), light)!;

describe('sheen', () => {
  it.each([
    ['in white light', TEAL, [1, 1, 1] as Triple],
    ['in warm light, whose white is known', TEAL, WARM],
    ['of a red body, which sheen moves the other way', [0.36, 0.055, 0.035] as Triple, [1, 1, 1] as Triple],
  ])('is found on a glossy ball %s, to a thirtieth of its luminance', (_, body, light) => {
    const of = ball(body, light, 0.12);
    const found = bodyOf(of, light);
    expect(found.confidence).toBeGreaterThan(0.9);
    const sheen = sheenOf(of.planes, of.alpha, W, H, found, 0.5);
    let [off, all] = [0, 0];
    for (let i = 0; i < W * H; i++) {
      if (of.alpha[i] === 0) continue;
      off += Math.abs(sheen[i]! - of.sheen[i]!);
      all += luminance([of.planes.r[i]!, of.planes.g[i]!, of.planes.b[i]!]);
    }
    expect(off / all).toBeLessThan(1 / 30);
  });
  it('lets the body be recoloured and the sheen stay: nearer to the truth than a gain on all of it', () => {
    const of = ball(TEAL, [1, 1, 1], 0.12, 0, 0.004);
    const plum: Triple = [0.13, 0.035, 0.11];
    const truth = ball(plum, [1, 1, 1], 0.12).planes;
    const body = bodyOf(of);
    const sheen = sheenOf(of.planes, of.alpha, W, H, body, 0.5);
    const gain = (c: 0 | 1 | 2) => plum[c] / TEAL[c];
    // in linear 709 the exact gain of this ball is one a channel: given as a shot's light, which is a 3×3
    const light = [gain(0), 0, 0, 0, gain(1), 0, 0, 0, gain(2)] as const;
    const off = (colour: (i: number, rgb: Triple) => Triple) => {
      let sum = 0;
      for (let i = 0; i < W * H; i++) {
        if (of.alpha[i] === 0) continue;
        const [r, g, b] = colour(i, [of.planes.r[i]!, of.planes.g[i]!, of.planes.b[i]!]);
        sum += Math.abs(r - truth.r[i]!) + Math.abs(g - truth.g[i]!) + Math.abs(b - truth.b[i]!);
      }
      return sum;
    };
    const plain = off((_, x) => x.map((v, c) => v * light[4 * c]!) as never);
    const e = body.light;
    const split = off((i, x) => x.map((v, c) => (v - sheen[i]! * e[c]!) * light[4 * c]! + sheen[i]! * e[c]!) as never);
    expect(split).toBeLessThan(plain / 2.5);
  });
  it('is not believed of a grey body, nor where lights of two colours meet', () => {
    expect(bodyOf(ball([0.4, 0.4, 0.41], [1, 1, 1], 0.12)).confidence).toBe(0);
    expect(bodyOf(ball(TEAL, [1, 1, 1], 0.01, 1.5)).confidence).toBeLessThan(0.3);
  });
  it('is nothing on a dull ball, and where it is not believed', () => {
    const dull = ball(TEAL, [1, 1, 1], 0, 0, 0.002);
    const grey = ball([0.4, 0.4, 0.41], [1, 1, 1], 0.12);
    const none = sheenOf(grey.planes, grey.alpha, W, H, bodyOf(grey), 0.5);
    expect(Math.max(...none)).toBe(0);
    const found = sheenOf(dull.planes, dull.alpha, W, H, { ...bodyOf(dull), confidence: 1 }, 0.5);
    expect(found.reduce((a, b) => a + b, 0) / W / H).toBeLessThan(0.004);
  });
  it('is not told of a piece of a few pixels', () => {
    const { planes, alpha } = ball(TEAL, [1, 1, 1], 0.1);
    expect(
      findSheenBody(
        sheenSamples(
          planes,
          alpha.map((a, i) => (i < 40 * W ? 0 : a * Number(i < 40 * W + 60))),
          W,
          H,
        ),
      ),
    ).toBeUndefined();
  });
});

describe('a repaint', () => {
  const body = {
    invariant: -2.8,
    direction: -1 as const,
    confidence: 1,
    light: [1, 1, 1] as [number, number, number],
    slope: 1.7,
  };
  const program = (sheen: number, on = true) =>
    compile(
      { ...NEUTRAL_RECIPE, match: { long: 2, middle: 1, short: 0.5 }, repaint: { on, sheen } },
      REFERENCE_LIGHT,
      NEUTRAL_TRIM,
      body,
    );
  it('recolours what is not sheen and puts the sheen back, as much of it as is kept', () => {
    const x: Triple = [0.1, 0.3, 0.28];
    const rest = recoloured(program(1), [0.05, 0.25, 0.23]);
    for (const kept of [0, 1, 2])
      repainted(program(kept), x, 0.05).forEach((v, c) => expect(v).toBeCloseTo(rest[c]! + kept * 0.05, 9));
  });
  it('off, or without sheen, is the plain recolour', () => {
    const x: Triple = [0.1, 0.3, 0.28];
    expect(repainted(program(1, false), x, 0.05)).toEqual(recoloured(program(1), x));
    expect(repainted(program(1), x, 0)).toEqual(recoloured(program(1), x));
  });
  it('that takes sheen away changes something, one that leaves it nothing by itself', () => {
    const plain = (sheen: number) =>
      compile({ ...NEUTRAL_RECIPE, repaint: { on: true, sheen } }, REFERENCE_LIGHT, NEUTRAL_TRIM, body).isNeutral;
    expect([plain(1), plain(0)]).toEqual([true, false]);
  });
});
