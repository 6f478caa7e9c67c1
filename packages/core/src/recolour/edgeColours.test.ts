// The piece's colour under its edge, on pictures mixed of a known piece and a known ground.
import { describe, expect, it } from 'vitest';
import { ciede2000 } from '../colour/ciede2000.ts';
import { labFromLinear709 } from '../colour/lab.ts';
import { gatheredLight, type LinearPlanes } from '../colour/planes.ts';
import type { SheenBody } from '../document/recipe.ts';
import { compile, recoloured } from './program.ts';
import { recolourInto } from './recolourInto.ts';
import { NEUTRAL_RECIPE } from './shift.ts';
import { cubeRootTable } from '../colour/oklabPlanes.ts';
import { shiftProgram } from '../testing/recipes.ts';
import { edgeColoursOf } from './edgeColours.ts';
import { seededRandom, thresholded } from '../testing/mattes.ts';
import { softenInPlace } from '../matte/cleanUp.ts';

const [W, H] = [96, 72];
type Rgb = readonly [number, number, number];
type Paint = (x: number, y: number) => Rgb;
const isDisc = (x: number, y: number) => Math.hypot(x - 48, y - 36) < 22;
/** A set's matte, softened by a Gaussian. */
function softMatte(isIn: (x: number, y: number) => boolean, sigma: number): Float32Array {
  const alpha = Float32Array.from({ length: W * H }, (_, i) => (isIn((i % W) + 0.5, Math.floor(i / W) + 0.5) ? 1 : 0));
  softenInPlace(alpha, W, H, sigma, 0);
  return alpha;
}
function mixed(alpha: Float32Array, piece: Paint, ground: Paint): LinearPlanes {
  const plane = (c: 0 | 1 | 2) =>
    alpha.map((a, i) => a * piece(i % W, Math.floor(i / W))[c] + (1 - a) * ground(i % W, Math.floor(i / W))[c]);
  return { r: plane(0), g: plane(1), b: plane(2) };
}
const lightOf = (picture: LinearPlanes) => (index: Uint32Array) => gatheredLight(picture, index);
const flat = (rgb: Rgb) => () => rgb;
const rgbOf = ({ r, g, b }: LinearPlanes, i: number): Rgb => [r[i]!, g[i]!, b[i]!];
const TEAL: Rgb = [0.04, 0.25, 0.24];
const OAK: Rgb = [0.45, 0.33, 0.2];
const program = shiftProgram({ hueDeg: -120, saturation: 1.2, density: -0.1 });
const turned = (rgb: Rgb) => recoloured(program, rgb).map((v) => Math.max(v, 0)) as unknown as Rgb;

/**
 * Mean and 95th percentile of ΔE00 over the band .02 < α < .98: of the plain blend, and with the edge's own colours.
 */
function errors(alpha: Float32Array, piece: Paint, ground: Paint, matte = alpha) {
  const picture = mixed(alpha, piece, ground);
  const truth = mixed(alpha, (x, y) => turned(piece(x, y)), ground);
  const edge = edgeColoursOf(lightOf(picture), matte, W, H, 1)!;
  const own = new Map(Array.from(edge.index, (i, k) => [i, [edge.r[k]!, edge.g[k]!, edge.b[k]!] as Rgb]));
  const [plain, solved]: [number[], number[]] = [[], []];
  for (let i = 0; i < alpha.length; i++) {
    if (!(alpha[i]! > 0.02 && alpha[i]! < 0.98)) continue;
    const at: Rgb = [picture.r[i]!, picture.g[i]!, picture.b[i]!];
    const wanted = labFromLinear709([truth.r[i]!, truth.g[i]!, truth.b[i]!]);
    const off = (F: Rgb) => {
      const next = turned(F);
      return ciede2000(
        wanted,
        labFromLinear709(at.map((v, c) => Math.max(v + matte[i]! * (next[c]! - F[c]!), 0)) as unknown as Rgb),
      );
    };
    plain.push(off(at));
    solved.push(off(own.get(i) ?? at));
  }
  const of = (list: number[]) => {
    list.sort((a, b) => a - b);
    return { mean: list.reduce((s, v) => s + v, 0) / list.length, p95: list[Math.floor(0.95 * list.length)]! };
  };
  return { plain: of(plain), solved: of(solved) };
}

describe('the colour under an edge', () => {
  it.each([0.7, 1.5, 3])('of a flat disc on a flat ground is the disc’s: softened by %f pixels', (sigma) => {
    const { plain, solved } = errors(softMatte(isDisc, sigma), flat(TEAL), flat(OAK));
    expect(plain.mean).toBeGreaterThan(4);
    expect(solved.mean).toBeLessThan(1);
  });
  const random = seededRandom(6);
  const noise = Float32Array.from({ length: W * H }, () => random() - 0.5);
  const mottled: Paint = (x, y) => {
    const k = 1 + 0.3 * Math.sin(x / 5) * Math.cos(y / 4) + 0.06 * noise[y * W + x]!;
    return [TEAL[0] * k, TEAL[1] * k, TEAL[2] * k];
  };
  const boards: Paint = (x, y) => {
    const k = 0.7 + 0.4 * (Math.floor(x / 9) % 2) + 0.1 * noise[y * W + x]!;
    return [OAK[0] * k, OAK[1] * k, OAK[2] * k];
  };
  it('is found before a ground with edges of its own, and under shading', () => {
    const { plain, solved } = errors(softMatte(isDisc, 1.5), mottled, boards);
    expect(solved.mean).toBeLessThan(plain.mean / 2);
    expect(solved.p95).toBeLessThan(plain.p95 / 1.5);
  });
  it('of thin things is no worse than a plain blend', () => {
    const isTube = (x: number, y: number) => Math.abs(x - 48 - 8 * Math.sin(y / 10)) < 2.6;
    const { plain, solved } = errors(softMatte(isTube, 0.7), mottled, boards);
    expect(solved.mean).toBeLessThan(plain.mean);
    expect(solved.p95).toBeLessThan(plain.p95);
  });
  it('stands a matte that is a pixel too large, too small or aside', () => {
    const alpha = softMatte(isDisc, 1.2);
    for (const isIn of [
      (x: number, y: number) => Math.hypot(x - 48, y - 36) < 23,
      (x: number, y: number) => Math.hypot(x - 48, y - 36) < 21,
      (x: number, y: number) => Math.hypot(x - 49, y - 36) < 22,
    ]) {
      const { plain, solved } = errors(alpha, mottled, boards, softMatte(isIn, 1.2));
      expect(solved.mean).toBeLessThan(plain.mean + 0.5);
    }
  });
  it('does not flicker while the piece passes before boards, in grain that is new on every frame', () => {
    const band = softMatte(isDisc, 1.5);
    const inBand = [...band.keys()].filter((i) => band[i]! > 0.02 && band[i]! < 0.98);
    const inside = [...band.keys()].filter((i) => band[i]! >= 0.98);
    const grain = seededRandom(11);
    /** What is off on a frame, Lab, seen from the disc, which moves by 1.25 pixels a frame. */
    const off = (f: number) => {
      const passing: Paint = (x, y) => boards(Math.floor(x + 1.25 * f) % W, y);
      const seen = mixed(band, mottled, passing);
      const noise = (plane: Float32Array) => plane.forEach((v, i) => (plane[i] = v * (1 + 0.06 * (grain() - 0.5))));
      [seen.r, seen.g, seen.b].forEach(noise);
      const truth = mixed(band, (x, y) => turned(mottled(x, y)), passing);
      const edge = edgeColoursOf(lightOf(seen), band, W, H, 1)!;
      const place = new Map(Array.from(edge.index, (i, k) => [i, k]));
      const of = (indices: number[], own: (i: number) => Rgb) =>
        indices.flatMap((i) => {
          const [at, F] = [rgbOf(seen, i), own(i)];
          const next = turned(F);
          const lab = labFromLinear709(at.map((v, c) => Math.max(v + band[i]! * (next[c]! - F[c]!), 0)) as never);
          const wanted = labFromLinear709(rgbOf(truth, i));
          return [lab.L - wanted.L, lab.a - wanted.a, lab.b - wanted.b];
        });
      return {
        inside: of(inside, (i) => rgbOf(seen, i)),
        edge: of(inBand, (i) => rgbOf(edge, place.get(i)!)),
      };
    };
    const frames = Array.from({ length: 8 }, (_, f) => off(f));
    const flicker = (of: 'inside' | 'edge') => {
      const steps = frames.slice(1).flatMap((now, f) => now[of].map((v, k) => (v - frames[f]![of][k]!) ** 2));
      return Math.sqrt(steps.reduce((a, b) => a + b, 0) / steps.length);
    };
    expect(flicker('edge')).toBeLessThan(1.2 * flicker('inside'));
  });
  it('is what a pixel can be mixed of: between the light that is left for it and all of it', () => {
    const alpha = softMatte(isDisc, 2);
    const picture = mixed(alpha, mottled, boards);
    const { index, r } = edgeColoursOf(lightOf(picture), alpha, W, H, 1)!;
    index.forEach((i, k) => {
      expect(alpha[i]! * r[k]!).toBeLessThanOrEqual(picture.r[i]! + 1e-6);
      expect(alpha[i]! * r[k]! + 1 - alpha[i]!).toBeGreaterThanOrEqual(picture.r[i]! - 1e-6);
    });
  });
});

it('there is none of a hard matte, of one that is nowhere whole, nor of nothing', () => {
  const picture = mixed(softMatte(isDisc, 1), flat(TEAL), flat(OAK));
  const hard = Float32Array.from(thresholded(softMatte(isDisc, 1)));
  for (const alpha of [hard, softMatte(isDisc, 1).map((a) => 0.6 * a), new Float32Array(W * H)])
    expect(edgeColoursOf(lightOf(picture), alpha, W, H, 1)).toBeUndefined();
});
it('a wide half-selected area far from the piece keeps its own colour', () => {
  const alpha = Float32Array.from({ length: W * H }, (_, i) => (i % W < 10 ? 1 : 0.5));
  const picture = mixed(alpha, flat(TEAL), flat(OAK));
  const { index, r } = edgeColoursOf(lightOf(picture), alpha, W, H, 1)!;
  index.forEach((i, k) => {
    if (i % W > 60) expect(r[k]).toBe(picture.r[i]);
  });
});
it('lies at the border of the picture too', () => {
  const alpha = softMatte((x) => x < 6, 1.5);
  const { index } = edgeColoursOf(lightOf(mixed(alpha, flat(TEAL), flat(OAK))), alpha, W, H, 1)!;
  expect([Math.floor(index[0]! / W), Math.floor(index.at(-1)! / W)]).toEqual([0, H - 1]);
});

it('sheen is carried on over an edge from where the piece stands alone', () => {
  const alpha = softMatte(isDisc, 2);
  const picture = mixed(alpha, flat(TEAL), flat(OAK));
  // what was read of mixed pixels does not count
  const sheen = alpha.map((a) => (a >= 0.98 ? 0.07 : 3));
  const edge = edgeColoursOf(lightOf(picture), alpha, W, H, 1, { sheen })!;
  expect(edge.sheen!.length).toBe(edge.index.length);
  edge.sheen!.forEach((s) => expect(s).toBeCloseTo(0.07, 5));
});

it('where sheen is told apart the edge keeps it, and the body’s own colour is recoloured', () => {
  const SHEEN = 0.05;
  const glossy: Rgb = [TEAL[0] + SHEEN, TEAL[1] + SHEEN, TEAL[2] + SHEEN];
  const body: SheenBody = { light: [1, 1, 1], slope: 1.7, direction: -1, confidence: 1, invariant: 0 };
  const match = { long: 2, middle: 0.7, short: 0.4 };
  const split = compile({ ...NEUTRAL_RECIPE, match, repaint: { on: true, sheen: 1 } }, undefined, undefined, body);
  const painted = recoloured(split, TEAL).map((v) => v + SHEEN) as unknown as Rgb;
  const alpha = softMatte(isDisc, 1.5);
  const picture = mixed(alpha, flat(glossy), flat(OAK));
  const truth = mixed(alpha, flat(painted), flat(OAK));
  const sheen = new Float32Array(W * H).fill(SHEEN);
  const edge = edgeColoursOf(lightOf(picture), alpha, W, H, 1, { sheen })!;
  recolourInto(picture, alpha, split, cubeRootTable(), edge, sheen);
  const off = (at: number) =>
    Math.max(...(['r', 'g', 'b'] as const).map((c) => Math.abs(picture[c][at]! - truth[c][at]!)));
  for (const i of edge.index) expect(off(i)).toBeLessThan(0.005);
});

describe('where pixels share their chroma', () => {
  /** What 4:2:0 leaves of a picture: R′ − Y′ and B′ − Y′ of each four pixels become their mean (BT.709-6 item 3.2). */
  function sharing({ r, g, b }: LinearPlanes): LinearPlanes {
    const encoded = [r, g, b].map((plane) => plane.map((v) => v ** (1 / 2.4))) as [Rows, Rows, Rows];
    const luma = encoded[0].map((v, i) => 0.2126 * v + 0.7152 * encoded[1][i]! + 0.0722 * encoded[2][i]!);
    const shared = (plane: Rows) =>
      plane.map((_, i) => {
        const at = i - ((i % W) % 2) - W * (Math.floor(i / W) % 2);
        return [0, 1, W, W + 1].reduce((sum, d) => sum + (plane[at + d]! - luma[at + d]!) / 4, 0);
      });
    const [red, blue] = [shared(encoded[0]), shared(encoded[2])];
    const light = (of: (i: number) => number) => luma.map((_, i) => Math.max(luma[i]! + of(i), 0) ** 2.4);
    const green = (i: number) => -(0.2126 * red[i]! + 0.0722 * blue[i]!) / 0.7152;
    return { r: light((i) => red[i]!), g: light(green), b: light((i) => blue[i]!) };
  }
  type Rows = Float32Array;
  const GREY: Rgb = [0.5, 0.5, 0.5];
  const SIDES: [string, Rgb, Rgb][] = [
    ['a colour before another', TEAL, OAK],
    ['a colour before grey', [0.5, 0.05, 0.04], GREY],
    ['grey before a colour', GREY, [0.5, 0.05, 0.04]],
  ];
  const edgeBefore = (alpha: Float32Array, picture: LinearPlanes, sharesChroma: boolean) =>
    edgeColoursOf(lightOf(picture), alpha, W, H, 1, { sharesChroma })!;
  const copyOf = ({ r, g, b }: LinearPlanes) => ({ r: r.slice(), g: g.slice(), b: b.slice() });

  it.each(SIDES)('%s leaves no fringe', (_, piece, ground) => {
    const alpha = softMatte(isDisc, 0.6);
    const picture = sharing(mixed(alpha, flat(piece), flat(ground)));
    const truth = mixed(alpha, flat(turned(piece)), flat(ground));
    const off = (sharesChroma: boolean) => {
      const own = copyOf(picture);
      recolourInto(own, alpha, program, cubeRootTable(), edgeBefore(alpha, picture, sharesChroma));
      const band = [...alpha.keys()].filter((i) => alpha[i]! > 0.02 && alpha[i]! < 0.98);
      const lab = (of: LinearPlanes, i: number) =>
        labFromLinear709(rgbOf(of, i).map((v) => Math.max(v, 0)) as unknown as Rgb);
      return band.reduce((sum, i) => sum + ciede2000(lab(own, i), lab(truth, i)), 0) / band.length;
    };
    expect(off(true)).toBeLessThan(0.32 * off(false));
  });
  it('a recolour that changes nothing leaves every pixel as it was, one of little takes little away', () => {
    const alpha = softMatte(isDisc, 0.6);
    const picture = sharing(mixed(alpha, flat(TEAL), flat(OAK)));
    const edge = edgeBefore(alpha, picture, true);
    expect(Math.max(...edge.stray!.r)).toBeGreaterThan(0.01);
    const after = (strength: number) => {
      const own = copyOf(picture);
      recolourInto(own, alpha, { ...program, strength }, cubeRootTable(), edge);
      return own;
    };
    expect(after(0)).toEqual(picture);
    const [little, before] = [after(0.001), picture.r];
    for (const i of edge.index) expect(Math.abs(little.r[i]! - before[i]!)).toBeLessThan(0.002);
  });
  it('what shows the piece alone, or nearly and all over, keeps the colours that it has', () => {
    const hue = (x: number, y: number): Rgb => ((x + y) % 2 === 0 ? [0.5, 0.05, 0.04] : [0.3, 0.1, 0.05]);
    const alpha = softMatte(isDisc, 0.6).map((a) => 0.95 * a);
    for (let i = 0; i < alpha.length; i++) if (i % W === 48) alpha[i] = alpha[i]! > 0.94 ? 1 : alpha[i]!;
    for (let i = 0; i < alpha.length; i++) if (i % W === 49 && alpha[i]! > 0.94) alpha[i] = 0.99;
    const picture = mixed(alpha, hue, flat(GREY));
    const { index, r, b, stray } = edgeBefore(alpha, picture, true);
    let nearlyAlone = 0;
    index.forEach((i, k) => {
      const [x, y] = [i % W, Math.floor(i / W)];
      if (alpha[i] === Math.fround(0.99))
        expect([r[k], Math.abs(stray!.r[k]!), Math.abs(stray!.b[k]!)]).toEqual([picture.r[i], 0, 0]);
      if (Math.hypot(x - 48, y - 36) > 16 || Math.abs(x - 48) < 4) return;
      nearlyAlone++;
      expect(Math.abs(r[k]! - b[k]! - (hue(x, y)[0] - hue(x, y)[2]))).toBeLessThan(0.03);
    });
    expect(nearlyAlone).toBeGreaterThan(400);
  });
  it('what has strayed has no luma, and none of it where the chroma is each pixel’s own', () => {
    const alpha = softMatte(isDisc, 0.6);
    const picture = mixed(alpha, flat(GREY), flat(OAK));
    const seen = sharing(picture);
    const { index, stray } = edgeBefore(alpha, seen, true);
    const luma = (of: LinearPlanes) =>
      of.r.map((r, k) => 0.2126 * Math.sqrt(r) + 0.7152 * Math.sqrt(of.g[k]!) + 0.0722 * Math.sqrt(of.b[k]!));
    const without = (c: 'r' | 'g' | 'b') => gatheredLight(seen, index)[c].map((v, k) => v - stray![c][k]!);
    const before = luma(gatheredLight(seen, index));
    luma({ r: without('r'), g: without('g'), b: without('b') }).forEach((v, k) => expect(v).toBeCloseTo(before[k]!, 5));
    expect(edgeBefore(alpha, picture, false).stray).toBeUndefined();
  });
});
