// The invariants of the pipeline (order of operations, exactness outside the mattes) and of what it measures.
import type { Layer } from '../document/layer.ts';
import type { SheenBody, Shift } from '../document/recipe.ts';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ciede2000 } from '../colour/ciede2000.ts';
import {
  codesFromLinear709,
  encodedFromLinear709,
  codeFromLinear,
  ENCODING_NAMES,
  linear709FromCodes,
  linearFromCode,
} from '../colour/encoding.ts';
import { labFromLinear709 } from '../colour/lab.ts';
import { oklabFromLinear709, oklchFromOklab, turnDeg } from '../colour/oklab.ts';
import { cubeRootTable } from '../colour/oklabPlanes.ts';
import { drift, judge, shotColour, spread } from '../measure/judgement.ts';
import { meanAfter, pieceSamples } from '../recolour/match.ts';
import { compile } from '../recolour/program.ts';
import { recolourInto } from '../recolour/recolourInto.ts';
import { invariantOf, sheenOf } from '../recolour/sheen.ts';
import { shiftProgram } from '../testing/recipes.ts';
import { gainFromDensity, NEUTRAL_RECIPE, NEUTRAL_SHIFT } from '../recolour/shift.ts';
import { shifted } from '../testing/shifted.ts';
import type { CodePicture } from './picture.ts';
import { frameMatte } from './frameMatte.ts';
import { measureSighting } from './measureSighting.ts';
import { renderFrame } from './renderFrame.ts';
import type { SightingRender } from './sightingRender.ts';
import { makeTables, sourceFrame } from './sourceFrame.ts';
import { PLAIN_LAYER } from '../testing/layers.ts';

const tables = makeTables();
const W = 48;
const H = 32;

/** A test card of 16-bit codes with every kind of pixel: ramps, saturated patches, black, white. */
function card(): CodePicture {
  const n = W * H;
  const picture = { width: W, height: H, r: new Uint16Array(n), g: new Uint16Array(n), b: new Uint16Array(n) };
  for (let i = 0; i < n; i++) {
    const [x, y] = [i % W, Math.floor(i / W)];
    picture.r[i] = Math.round((65535 * x) / (W - 1));
    picture.g[i] = Math.round((65535 * y) / (H - 1));
    picture.b[i] = (i * 40503) % 65536;
  }
  return picture;
}
const box = (cx: number, cy: number, width: number, height: number, more: Partial<Layer> = {}): Layer =>
  ({
    ...PLAIN_LAYER,
    kind: 'shape',
    geometry: { form: 'rectangle', cx, cy, width, height, turnDeg: 0 },
    feather: { innerPx: 0, outerPx: 0, falloff: 'linear' },
    ...more,
  }) as Layer;
const turn: Shift = { exposureStops: 0.4, hueDeg: 75, saturation: 0.8, density: 0.12 };
const sighting = (layers: Layer[], shift = turn, strength = 1): SightingRender => ({
  layers,
  program: shiftProgram(shift, strength),
});

describe.each(ENCODING_NAMES)('renderFrame, %s', (encoding) => {
  const source = sourceFrame(card(), encoding, 1, tables);
  it('gives back the very same codes where every α is 0', () => {
    const { codes, mattes } = renderFrame(
      source,
      [sighting([box(12, 16, 10, 10)]), sighting([box(30, 20, 6, 6)])],
      tables,
    );
    let outside = 0;
    let changed = 0;
    for (let i = 0; i < W * H; i++) {
      const same =
        codes.r[i] === source.codes.r[i] && codes.g[i] === source.codes.g[i] && codes.b[i] === source.codes.b[i];
      if (mattes.every((m) => m[i] === 0)) {
        outside++;
        expect(same).toBe(true);
      } else if (!same) changed++;
    }
    expect(outside).toBe(W * H - 136);
    expect(changed).toBeGreaterThan(120);
  });
  it('changes nothing with a neutral recipe: no more than one code of 16 bit, by the full computation', () => {
    const linear = { r: source.linear().r.slice(), g: source.linear().g.slice(), b: source.linear().b.slice() };
    recolourInto(linear, new Float32Array(W * H).fill(1), shiftProgram({}), cubeRootTable());
    const encoded = encodedFromLinear709(linear, encoding, tables.encode(encoding));
    for (let i = 0; i < W * H; i++) {
      const own = (['r', 'g', 'b'] as const).map((c) => linearFromCode(encoding, source.codes[c][i]! / 65535));
      const brightest = Math.max(...own);
      (['r', 'g', 'b'] as const).forEach((c, k) => {
        const code = source.codes[c][i]!;
        // beside a channel over white a darker one has no finer steps than single precision gives the bright one
        const step = brightest > 1 ? codeFromLinear(encoding, own[k]! + brightest * 2 ** -23) * 65535 - code : 0;
        // black beside bright channels is what single precision leaves of their sum: 6e-8, raised to 1 / 2.4
        expect(Math.abs(encoded[c][i]! * 65535 - code)).toBeLessThanOrEqual(step + (own[k]! < 1e-5 ? 64 : 1));
      });
    }
  });
  it('gives the same picture in either order of two pieces that do not overlap', () => {
    const a = sighting([box(10, 10, 12, 12)]);
    const b = sighting([box(34, 20, 12, 12)], { ...turn, hueDeg: -120 });
    expect(renderFrame(source, [a, b], tables).codes).toEqual(renderFrame(source, [b, a], tables).codes);
  });
  it('is the exact formula to half a 16-bit code', () => {
    const { codes } = renderFrame(source, [sighting([box(24, 16, 20, 20)])], tables);
    for (let i = 0; i < W * H; i += 7) {
      const at = (c: 'r' | 'g' | 'b') => source.codes[c][i]! / 65535;
      const out = codesFromLinear709(
        encoding,
        shifted(turn, linear709FromCodes(encoding, [at('r'), at('g'), at('b')])),
      );
      const inside = Math.abs((i % W) + 0.5 - 24) < 10 && Math.abs(Math.floor(i / W) + 0.5 - 16) < 10;
      if (!inside) continue;
      const wanted = Math.min(Math.max(out[0] * 65535, 0), 65535);
      expect(Math.abs(codes.r[i]! - wanted)).toBeLessThanOrEqual(1);
    }
  });
});

it('lets a later piece recolour what an earlier one left, but keys always read the untouched picture', () => {
  const source = sourceFrame(card(), 'srgb', 1, tables);
  const greenish: Layer = {
    id: 'a',
    name: 'A',
    kind: 'range',
    picks: [],
    on: true,
    mode: 'add',
    invert: false,
    strength: 1,
    key: {
      hue: { on: true, lo: 120, hi: 160, softLo: 5, softHi: 5 },
      chroma: { on: true, lo: 0.1, hi: 0.4, softLo: 0, softHi: 0 },
      lightness: { on: false, lo: 0, hi: 1, softLo: 0, softHi: 0 },
    },
  };
  const alone = renderFrame(source, [sighting([greenish])], tables).mattes[0];
  const after = renderFrame(source, [sighting([box(24, 16, 48, 32)]), sighting([greenish])], tables).mattes[1];
  expect(after).toEqual(alone);
  expect(alone!.some((a) => a === 1)).toBe(true);
});

describe('stack', () => {
  const source = sourceFrame(card(), 'srgb', 1, tables);
  const left = box(12, 16, 24, 32);
  const top = (more: Partial<Layer>) => box(24, 8, 48, 16, more);
  const at = (layers: Layer[], x: number, y: number) => frameMatte(source, layers)[y * W + x];
  it('adds, keeps within and takes without', () => {
    const probe = (mode: Layer['mode'], strength = 1) => [
      at([left, top({ mode, strength })], 5, 5),
      at([left, top({ mode, strength })], 5, 25),
      at([left, top({ mode, strength })], 40, 5),
      at([left, top({ mode, strength })], 40, 25),
    ];
    expect(probe('add')).toEqual([1, 1, 1, 0]);
    expect(probe('within')).toEqual([1, 0, 0, 0]);
    expect(probe('without')).toEqual([0, 1, 0, 0]);
    expect(probe('add', 0.25)).toEqual([1, 1, 0.25, 0]);
    expect(probe('within', 0)).toEqual([1, 1, 0, 0]);
    expect(probe('without', 0)).toEqual([1, 1, 0, 0]);
  });
  it('starts from everything when the first layer keeps within or without, and is empty without layers', () => {
    expect(at([top({ mode: 'without' })], 5, 25)).toBe(1);
    expect(at([top({ mode: 'within' })], 5, 25)).toBe(0);
    expect(at([], 5, 5)).toBe(0);
    expect(at([top({ mode: 'without', on: false })], 5, 5)).toBe(0);
  });
  it('leaves out a key that has no picks yet', () => {
    expect(
      at(
        [
          left,
          {
            id: 'a',
            name: 'A',
            kind: 'range',
            picks: [],
            on: true,
            mode: 'within',
            invert: false,
            strength: 1,
            key: null,
          },
        ],
        5,
        5,
      ),
    ).toBe(1);
  });
  it('stays within 0..1, and inverting twice is nothing', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            mode: fc.constantFrom('add' as const, 'within' as const, 'without' as const),
            strength: fc.double({ min: 0, max: 1, noNaN: true }),
            invert: fc.boolean(),
            cx: fc.integer({ min: 0, max: W }),
          }),
          { maxLength: 5 },
        ),
        (rows) => {
          const alpha = frameMatte(
            source,
            rows.map(({ cx, ...more }) => box(cx, 16, 20.5, 20.5, more)),
          );
          expect(alpha.every((v) => v >= 0 && v <= 1)).toBe(true);
        },
      ),
      { numRuns: 40 },
    );
    const plain = frameMatte(source, [box(20.2, 16, 9.5, 9.5)]);
    const inverted = frameMatte(source, [box(20.2, 16, 9.5, 9.5, { invert: true })]);
    expect(plain.every((v, i) => Math.abs(v + inverted[i]! - 1) < 1e-6)).toBe(true);
  });
});

describe('shift', () => {
  const teal: [number, number, number] = [0.05, 0.24, 0.23];
  it('darkens by one stop for a density of 0.30', () => {
    // ISO 5-1: D = −log10 T; one stop is a factor of 2 and log10 2 = 0.30103. 0.30 is common practice for it.
    expect(gainFromDensity(0.30103)).toBeCloseTo(0.5, 6);
    const out = shifted({ ...NEUTRAL_SHIFT, density: 0.30103 }, teal);
    out.forEach((v, i) => expect(v / teal[i]!).toBeCloseTo(0.5, 5));
  });
  it('brightens by 1.68 for three quarters of a stop', () => {
    // common practice, no source: ×2^0.75 ≈ ×1.68
    expect(shifted({ ...NEUTRAL_SHIFT, exposureStops: 0.75 }, teal)[1] / teal[1]).toBeCloseTo(1.68, 2);
  });
  it('turns hue by the angle asked for and leaves lightness and chroma', () => {
    const from = oklchFromOklab(oklabFromLinear709(teal));
    const to = oklchFromOklab(oklabFromLinear709(shifted({ ...NEUTRAL_SHIFT, hueDeg: -110 }, teal)));
    expect(turnDeg(from.hDeg, to.hDeg)).toBeCloseTo(-110, 6);
    expect(to.C).toBeCloseTo(from.C, 9);
    expect(to.L).toBeCloseTo(from.L, 9);
  });
  it('comes back after a full turn and after two', () => {
    for (const hueDeg of [360, 720])
      shifted({ ...NEUTRAL_SHIFT, hueDeg }, teal).forEach((v, i) => expect(v).toBeCloseTo(teal[i]!, 9));
  });
  it('is grey at saturation 0 and passes NaN on unrepaired', () => {
    expect(oklchFromOklab(oklabFromLinear709(shifted({ ...NEUTRAL_SHIFT, saturation: 0 }, teal))).C).toBeLessThan(1e-9);
    expect(shifted(turn, [Number.NaN, 0, 0])[0]).toBeNaN();
  });
  it('moves half way in linear light at strength one half', () => {
    const source = sourceFrame(card(), 'linear709', 1, tables);
    const full = renderFrame(source, [sighting([box(24, 16, 48, 32)], turn, 1)], tables).linear;
    const half = renderFrame(source, [sighting([box(24, 16, 48, 32)], turn, 0.5)], tables).linear;
    for (let i = 0; i < W * H; i += 11) expect(half.g[i]).toBeCloseTo((full.g[i]! + source.linear().g[i]!) / 2, 6);
  });
});

describe('measuring', () => {
  it('finds the colour of a flat piece, leaves clipped pixels out and counts them', () => {
    const n = W * H;
    const codes: CodePicture = {
      width: W,
      height: H,
      r: new Uint8Array(n).fill(40),
      g: new Uint8Array(n).fill(128),
      b: new Uint8Array(n).fill(120),
    };
    for (let i = 0; i < 100; i++) codes.r[i * 2] = 255;
    const source = sourceFrame(codes, 'srgb', 1, tables);
    const measured = measureSighting(source, renderFrame(source, [sighting([box(24, 16, 48, 32)])], tables), 0)!;
    const linear = [40, 128, 120].map((c) => linearFromCode('srgb', c / 255)) as [number, number, number];
    expect(ciede2000(measured.before.lab, labFromLinear709(linear))).toBeLessThan(1e-4);
    expect(ciede2000(measured.after.lab, labFromLinear709(shifted(turn, linear)))).toBeLessThan(1e-2);
    expect(measured.before.pixels).toBe(n - 100);
    expect(measured.before.clippedShare).toBeCloseTo(100 / n, 9);
    expect(measured.before.covariance.every((v) => Math.abs(v) < 1e-6)).toBe(true);
    expect(measured.before.median.hDeg).toBeCloseTo(measured.before.p90.hDeg, 4);
  });
  it('tells the body from the sheen on it where the recolour does, as a match reckons it', () => {
    const ramp = Uint8Array.from({ length: W * H }, (_, i) => 60 + ((i * 37) % 90));
    const codes = {
      width: W,
      height: H,
      r: ramp.map((v) => v * 0.7),
      g: ramp.map((v) => v * 1.1),
      b: ramp,
    };
    const source = sourceFrame(codes, 'srgb', 1, tables);
    const own = invariantOf(1.7, ...([0.7, 1.1, 1].map((v) => v ** 2.2) as [number, number, number]));
    const body: SheenBody = { light: [1, 1, 1], slope: 1.7, direction: -1, confidence: 1, invariant: own - 0.3 };
    const numbers = { ...NEUTRAL_RECIPE, strength: 0.8, repaint: { on: true, sheen: 0.5 } };
    const program = compile({ ...numbers, match: { long: 1.2, middle: 0.9, short: 0.7 } }, undefined, undefined, body);
    const rendered = renderFrame(source, [{ layers: [box(24, 16, 48, 32)], program }], tables);
    const { after } = measureSighting(source, rendered, 0)!;
    const alpha = rendered.mattes[0]!;
    const sheen = sheenOf(source.linear(), alpha, W, H, body, 1);
    const samples = pieceSamples(source.linear(), alpha, () => false, sheen)!;
    meanAfter(samples, program, 'srgb', 'body').forEach((v, c) => expect(after.body![c]).toBeCloseTo(v, 4));
    expect(after.meanLinear[0] - after.body![0]).toBeGreaterThan(0.005);
  });
  it('has nothing to say about an empty matte', () => {
    const source = sourceFrame(card(), 'srgb', 1, tables);
    expect(measureSighting(source, renderFrame(source, [sighting([])], tables), 0)).toBeUndefined();
  });
  it('judges by the tolerance and compares frames and sightings', () => {
    expect([judge(1, 1), judge(1.01, 1), judge(2, 1), judge(2.01, 1), judge(3, 2)]).toEqual([
      'matches',
      'close',
      'close',
      'off',
      'close',
    ]);
    const frame = (g: number) => ({ meanLinear: [0.1, g, 0.1] as const, lab: labFromLinear709([0.1, g, 0.1]) });
    const frames = [frame(0.2), frame(0.2), frame(0.3)];
    const mean = shotColour(frames)!;
    expect(ciede2000(mean, labFromLinear709([0.1, 0.7 / 3, 0.1]))).toBeLessThan(1e-6);
    expect(drift(frames)).toBeCloseTo(ciede2000(frames[2]!.lab, mean), 9);
    expect(spread(frames.map((f) => f.lab))).toBeCloseTo(ciede2000(frames[0]!.lab, frames[2]!.lab), 9);
    expect([drift([]), spread([])]).toEqual([0, 0]);
  });
});

it('agrees between a half-size proxy and the scaled-down render: mean ΔE00 ≤ 0.3 inside the matte', () => {
  const full: CodePicture = {
    width: 128,
    height: 96,
    r: new Uint16Array(128 * 96),
    g: new Uint16Array(128 * 96),
    b: new Uint16Array(128 * 96),
  };
  for (let y = 0; y < 96; y++)
    for (let x = 0; x < 128; x++) {
      const shade = 0.5 + 0.3 * Math.sin(x / 9) * Math.cos(y / 13);
      full.r[y * 128 + x] = 65535 * shade * 0.35;
      full.g[y * 128 + x] = 65535 * shade * 0.9;
      full.b[y * 128 + x] = 65535 * shade * 0.85;
    }
  const halved = (p: CodePicture): CodePicture => {
    const half = (plane: CodePicture['r']) =>
      Uint16Array.from({ length: 64 * 48 }, (_, i) => {
        const j = 2 * Math.floor(i / 64) * 128 + 2 * (i % 64);
        return Math.round((plane[j]! + plane[j + 1]! + plane[j + 128]! + plane[j + 129]!) / 4);
      });
    return { width: 64, height: 48, r: half(p.r), g: half(p.g), b: half(p.b) };
  };
  const layer: Layer = {
    ...PLAIN_LAYER,
    kind: 'shape',
    geometry: { form: 'ellipse', cx: 64, cy: 48, width: 80, height: 60, turnDeg: 20 },
    feather: { innerPx: 3, outerPx: 3, falloff: 'smooth' },
  };
  const render = halved(renderFrame(sourceFrame(full, 'rec709', 1, tables), [sighting([layer])], tables).codes);
  const proxy = renderFrame(sourceFrame(halved(full), 'rec709', 0.5, tables), [sighting([layer])], tables);
  let total = 0;
  let count = 0;
  proxy.mattes[0]!.forEach((a, i) => {
    if (a <= 0) return;
    const lab = (p: CodePicture) =>
      labFromLinear709(
        [p.r[i]!, p.g[i]!, p.b[i]!].map((c) => linearFromCode('rec709', c / 65535)) as [number, number, number],
      );
    total += ciede2000(lab(render), lab(proxy.codes));
    count++;
  });
  expect(count).toBeGreaterThan(800);
  expect(total / count).toBeLessThanOrEqual(0.3);
});
