// Computing only where something is selected gives what computing everything gives, to the bit.
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { NEUTRAL_FINER } from '../recolour/neutralFiner.ts';
import { compile } from '../recolour/program.ts';
import { NEUTRAL_RECIPE } from '../recolour/shift.ts';
import { NO_CLEAN_UP } from '../matte/cleanUp.ts';
import { NO_SPILL } from '../matte/spill.ts';
import { cleanUpStackInPlace, stackMatteInto } from '../matte/stack.ts';
import { supportOf } from '../matte/support.ts';
import type { Layer, LayerMode, SingleLayer } from '../document/layer.ts';
import { PLAIN_LAYER } from '../testing/layers.ts';
import { seededRandom } from '../testing/mattes.ts';
import { shiftProgram } from '../testing/recipes.ts';
import { groupsOf } from './apart.ts';
import { frameMatte, ownMatte } from './frameMatte.ts';
import type { CodePicture } from './picture.ts';
import { regionOf } from './region.ts';
import { codesOf, recolourWhole, renderFrame, type RenderAs } from './renderFrame.ts';
import type { SightingRender } from './sightingRender.ts';
import { makeTables, sourceFrame, type SourceFrame } from './sourceFrame.ts';

const tables = makeTables();
const [W, H] = [64, 40];
/** Smooth colour with grain, so that keys select parts of it with soft edges. */
function picture(seed: number): CodePicture {
  const random = seededRandom(seed);
  const plane = (of: (x: number, y: number) => number) =>
    Uint16Array.from({ length: W * H }, (_, i) =>
      Math.min(Math.max((of(i % W, Math.floor(i / W)) + 0.1 * random()) * 65535, 0), 65535),
    );
  return {
    width: W,
    height: H,
    r: plane((x) => x / W),
    g: plane((x, y) => 0.5 + 0.4 * Math.sin(x / 9 + y / 7)),
    b: plane((_, y) => y / H),
  };
}

const anyWindow = (top: number) =>
  fc.record({
    on: fc.constant(true),
    lo: fc.double({ min: 0, max: top * 0.4, noNaN: true }),
    hi: fc.double({ min: top * 0.5, max: top, noNaN: true }),
    softLo: fc.double({ min: 0, max: top / 4, noNaN: true }),
    softHi: fc.double({ min: 0, max: top / 4, noNaN: true }),
  });
const MODES: LayerMode[] = ['add', 'within', 'without'];
const common = {
  mode: fc.constantFrom(...MODES),
  invert: fc.oneof({ weight: 4, arbitrary: fc.constant(false) }, fc.constant(true)),
  strength: fc.oneof({ weight: 3, arbitrary: fc.constant(1) }, fc.constant(0.6)),
};
const key = fc
  .record({ ...common, hue: anyWindow(360), chroma: anyWindow(0.3), lightness: anyWindow(1) })
  .map(({ hue, chroma, lightness, ...more }) => ({
    ...PLAIN_LAYER,
    ...more,
    kind: 'range',
    key: { hue, chroma, lightness },
    picks: [],
  }));
const at = (size: number) => fc.double({ min: -10, max: size + 10, noNaN: true });
const shape = fc
  .record({ ...common, cx: at(W), cy: at(H), width: at(W / 2), height: at(H / 2), turnDeg: at(90), feather: at(6) })
  .map(({ mode, invert, strength, feather, width, height, ...rest }) => ({
    ...PLAIN_LAYER,
    mode,
    invert,
    strength,
    kind: 'shape',
    geometry: { form: 'ellipse', ...rest, width: Math.abs(width) + 1, height: Math.abs(height) + 1 },
    feather: { innerPx: Math.max(feather, 0), outerPx: Math.max(feather / 2, 0), falloff: 'smooth' },
  }));
const single = fc.oneof(key, shape) as fc.Arbitrary<SingleLayer>;
const group = fc
  .record({ ...common, layers: fc.array(single, { minLength: 1, maxLength: 2 }) })
  .map((more) => ({ ...PLAIN_LAYER, ...more, kind: 'group' }));
const stack = fc.array(fc.oneof({ weight: 4, arbitrary: single }, group as fc.Arbitrary<Layer>), { maxLength: 4 });
const cleanUp = fc.constantFrom(
  undefined,
  { ...NO_CLEAN_UP, islandsPx: 6, holesPx: 9, softenPx: 1.2, edgePx: 1 },
  { ...NO_CLEAN_UP, islandsPx: 6, holesPx: 9, softenPx: 0.5 },
  { ...NO_CLEAN_UP, floor: 0.1, ceiling: 0.8, islandsPx: 30, softenPx: 1.6, softenBias: 1 },
  // the ground itself is such a hole
  { ...NO_CLEAN_UP, holesPx: 600 },
  { ...NO_CLEAN_UP, floor: -0.2, ceiling: 0.7 },
);

/** The stack's α with every layer computed over the whole frame. */
function wholeMatte(source: SourceFrame, { layers, cleanUp: clean }: SightingRender): Float32Array {
  const out = new Float32Array(W * H);
  stackMatteInto(out, layers, (layer) => ownMatte(source, layer));
  cleanUpStackInPlace(out, layers, clean, source.matteSource);
  return out;
}

describe('only where something is selected', () => {
  it('mattes are those of the whole frame, and 0 outside the support of their stack', () => {
    let isPart = 0;
    fc.assert(
      fc.property(stack, cleanUp, fc.integer({ min: 1, max: 99 }), (layers, clean, seed) => {
        const source = sourceFrame(picture(seed), 'rec709', 1, tables);
        const whole = wholeMatte(source, { layers, cleanUp: clean, program: shiftProgram({}) });
        expect(frameMatte(source, layers, clean)).toEqual(whole);
        expect(frameMatte(source, layers, clean, (layer) => ownMatte(source, layer))).toEqual(whole);
        const box = supportOf(layers, W, H, 1);
        if (box && (box.x1 - box.x0) * (box.y1 - box.y0) === W * H) return;
        isPart++;
        const raw = frameMatte(source, layers, undefined, (layer) => ownMatte(source, layer));
        for (let i = 0; i < raw.length; i++) {
          const [x, y] = [i % W, Math.floor(i / W)];
          const isIn = box && x >= box.x0 && x < box.x1 && y >= box.y0 && y < box.y1;
          if (!isIn) expect(raw[i]).toBe(0);
        }
      }),
      { numRuns: 300, seed: 12 },
    );
    // the property would hold of a support that is always everything
    expect(isPart).toBeGreaterThan(60);
  });

  const finer = NEUTRAL_FINER;
  const programs: [string, SightingRender['program']][] = [
    ['a shift', shiftProgram({ hueDeg: 80, saturation: 1.3, density: 0.2 })],
    ['finer tools', compile({ ...NEUTRAL_RECIPE, finer: { ...finer, guard: { ...finer.guard, on: true } } })],
    [
      'texture',
      compile({ ...NEUTRAL_RECIPE, finer: { ...finer, texture: { ...finer.texture, on: true, colourPx: 4 } } }),
    ],
  ];
  const ways: [string, RenderAs][] = [
    ['', {}],
    [' as floats', { samples: 'float' }],
    [' in another encoding', { encoding: 'srgb' }],
  ];
  it.each(programs.flatMap(([name, program]) => ways.map(([how, as]) => [name, how, program, as] as const)))(
    'codes with %s%s are those of the whole frame',
    (_name, _how, program, as) => {
      fc.assert(
        fc.property(fc.array(stack, { minLength: 1, maxLength: 2 }), cleanUp, (stacks, clean) => {
          const sharesChroma = stacks.length === 2;
          const source = sourceFrame(picture(stacks.length), 'rec709', 1, tables, { sharesChroma });
          const sightings = stacks.map((layers): SightingRender => ({ layers, cleanUp: clean, program }));
          const mattes = sightings.map((s) => wholeMatte(source, s));
          const whole = codesOf(source, recolourWhole(source, sightings, mattes, tables), tables, as);
          expect(renderFrame(source, sightings, tables, undefined, as).codes).toEqual(whole);
        }),
        { numRuns: 40, seed: 5 },
      );
    },
  );

  /** Smaller than the picture, so that a part of it is looked at: keys select it all over. */
  const place = fc.record({ cx: fc.integer({ min: -5, max: W + 5 }), cy: fc.integer({ min: -5, max: H + 5 }) });
  const small = fc.tuple(shape, place).map(([layer, at]) => ({
    ...layer,
    mode: 'add',
    invert: false,
    geometry: { ...layer.geometry, width: 9, height: 7, ...at },
    feather: { innerPx: 1, outerPx: 1, falloff: 'smooth' },
  })) as fc.Arbitrary<Layer>;
  const spill = { ...NO_SPILL, mode: 'remove', reachPx: 5, tolerance: 0.2 } as const;
  it.each(ways)('spill, light and what was touched%s are those of the whole frame', (_how, as) => {
    const found = { spill: 0, together: 0, apart: 0, plainApart: 0 };
    fc.assert(
      fc.property(small, small, small, fc.integer({ min: 1, max: 99 }), (a, b, c, seed) => {
        const sharesChroma = seed % 2 === 1;
        const source = sourceFrame(picture(seed), 'rec709', 1, tables, { sharesChroma });
        const [first, second] = [shiftProgram({ hueDeg: 90 }), shiftProgram({ density: 0.3 })];
        const sightings: SightingRender[] = [
          { layers: [c], program: second },
          { layers: [a], program: first, spill },
          { layers: [b], program: first },
        ];
        const mattes = sightings.map((s) => wholeMatte(source, s));
        const whole = recolourWhole(source, sightings, mattes, tables);
        const own = renderFrame(source, sightings, tables, (_, i) => mattes[i]!, as);
        expect(own.codes).toEqual(codesOf(source, whole, tables, as));
        const every = Uint32Array.from({ length: W * H }, (_, i) => i);
        expect(own.lightAt(every)).toEqual(whole.lightAt(every));
        expect(own.linear).toEqual(whole.linear);
        expect(own.touched).toEqual(whole.touched);
        expect(own.spills).toEqual(whole.spills);
        // what is remembered of the frame is what another recolour of it finds
        const program = compile({ ...NEUTRAL_RECIPE, shift: { ...NEUTRAL_RECIPE.shift, hueDeg: 40 }, strength: 0.6 });
        const others = sightings.map((sighting) => ({ ...sighting, program }));
        const fresh = sourceFrame(picture(seed), 'rec709', 1, tables, { sharesChroma });
        const freshMattes = mattes.map((matte) => matte.slice());
        expect(renderFrame(source, others, tables, (_, i) => mattes[i]!, as).codes).toEqual(
          codesOf(fresh, recolourWhole(fresh, others, freshMattes, tables), tables, as),
        );
        const groups = groupsOf(source, sightings, mattes);
        found[groups ? 'apart' : 'together']++;
        if (groups?.some(({ members }) => members.length === 2 && !members.includes(1))) found.plainApart++;
        if (whole.spills[1]?.share.some((v) => v > 0)) found.spill++;
      }),
      { numRuns: 100, seed: 3 },
    );
    for (const [what, count] of Object.entries(found)) expect(count, what).toBeGreaterThan(8);
  });
  it.each([
    ['one recolour', 1],
    ['two that meet', 2],
  ])('%s: mattes are made at once, spill, codes and light when they are asked for', (_how, count) => {
    let asked = 0;
    const made = sourceFrame(picture(5), 'rec709', 1, tables);
    const source: SourceFrame = {
      ...made,
      linear: () => (asked++, made.linear()),
      lightAt: (pixels) => (asked++, made.lightAt(pixels)),
      within: (part) => (asked++, made.within(part)),
    };
    const half = Float32Array.from({ length: W * H }, (_, i) => (i % W < W / 2 ? 1 : 0));
    const turned: SightingRender = { layers: [], program: shiftProgram({ hueDeg: 30 }) };
    const rendered = renderFrame(source, Array<SightingRender>(count).fill(turned), tables, () => half);
    expect([rendered.mattes[0], asked]).toEqual([half, 0]);
    const { codes, linear } = rendered;
    expect(codes).not.toEqual(made.codes);
    expect(asked).toBeGreaterThan(0);
    expect([rendered.codes === codes, rendered.linear === linear]).toEqual([true, true]);
  });
  it('a frame that the piece is not on is copied: its light is not asked for', () => {
    const made = sourceFrame(picture(6), 'rec709', 1, tables);
    const source: SourceFrame = {
      ...made,
      linear: () => {
        throw new Error('light was made');
      },
    };
    const program = compile({ ...NEUTRAL_RECIPE, finer: { ...finer, guard: { ...finer.guard, on: true } } });
    const nothing = new Float32Array(W * H);
    const { codes } = renderFrame(source, [{ layers: [], program }], tables, () => nothing);
    expect(codes).toEqual(made.codes);
    expect(codes.r).not.toBe(made.codes.r);
  });
  it('is all of it where a recolour may work anywhere, and known again for as long as mattes stay', () => {
    const source = sourceFrame(picture(4), 'rec709', 1, tables);
    const geometry = { form: 'ellipse', cx: 20, cy: 20, width: 12, height: 9, turnDeg: 0 };
    const layers = [
      { ...PLAIN_LAYER, kind: 'shape', geometry, feather: { innerPx: 0, outerPx: 0 } },
    ] as unknown as Layer[];
    const of = (more: Partial<SightingRender>): SightingRender => ({ layers, program: shiftProgram({}), ...more });
    const mattes = [wholeMatte(source, of({}))];
    const region = regionOf(source, [of({})], mattes)!;
    expect(region.box).toEqual({ x0: 12, y0: 13, x1: 28, y1: 27 });
    expect(regionOf(source, [of({ program: shiftProgram({ hueDeg: 9 }) })], mattes)).toBe(region);
    expect(regionOf(source, [of({})], [mattes[0]!.slice()])).not.toBe(region);
    expect(regionOf(source, [of({ spill })], mattes)!.box).toEqual({ x0: 2, y0: 3, x1: 38, y1: 37 });
    const within = { geometry, feather: { innerPx: 0, outerPx: 0 } } as never;
    for (const more of [{ spill: { ...spill, within } }, { spill: { ...spill, mode: 'bounce' as const } }])
      expect(regionOf(source, [of(more)], mattes)).toBeUndefined();
    expect(regionOf(source, [of({})], [new Float32Array(W * H)])).toBeUndefined();
  });
});
