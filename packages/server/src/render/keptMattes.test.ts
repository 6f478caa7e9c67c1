// When a matte may be used again, and that what is measured with it is what is measured without.
import { afterAll, describe, expect, it } from 'vitest';
import { NEUTRAL_BALANCE, NO_CLEAN_UP, type Layer, type SightingRender } from '@mellow/core';
import { PLAIN_LAYER } from '../../../core/src/testing/layers.ts';
import { shiftProgram } from '../../../core/src/testing/recipes.ts';
import { keptMattes, matteKey } from './keptMattes.ts';
import { keptSamples, sampleKey } from './keptSamples.ts';
import { RenderPool } from './renderPool.ts';

const rectangle = (cx: number): Layer => ({
  ...PLAIN_LAYER,
  kind: 'shape',
  geometry: { form: 'rectangle', cx, cy: 6, width: 8, height: 6, turnDeg: 0 },
  feather: { innerPx: 1, outerPx: 1, falloff: 'linear' },
});
const sighting = (cx = 8, more: Partial<SightingRender> = {}): SightingRender => ({
  layers: [rectangle(cx)],
  program: shiftProgram({ saturation: 1.5 }),
  ...more,
});
const [width, height] = [24, 12];
const codes = (from = 0) => {
  const plane = (k: number) => Uint16Array.from({ length: width * height }, (_, i) => (from + (i + k) * 977) % 65536);
  return { width, height, r: plane(0), g: plane(30), b: plane(70) };
};
const near = (off: number, cx: number) => ({
  off,
  frame: { codes: codes(off), sightings: [sighting(cx)], plates: {}, carried: {} },
});
const task = (...sightings: SightingRender[]) => ({ encoding: 'rec709' as const, scale: 1, sightings });

describe('A matte is known again', () => {
  const known = matteKey('frame 7', task(sighting()), 0);

  it('whatever becomes of the colour, and whatever else is in the shot', () => {
    expect(known).toBeDefined();
    expect(matteKey('frame 7', task(sighting(8, { program: shiftProgram({ saturation: 0 }) })), 0)).toBe(known);
    expect(matteKey('frame 7', task(sighting(3), sighting()), 1)).toBe(known);
    const around = [near(-1, 3)];
    expect(matteKey('frame 7', { ...task(sighting()), around }, 0)).toBe(known);
  });
  it.each([
    ['frame', matteKey('frame 8', task(sighting()), 0)],
    ['stack', matteKey('frame 7', task(sighting(9)), 0)],
    ['clean-up', matteKey('frame 7', task(sighting(8, { cleanUp: { ...NO_CLEAN_UP, islandsPx: 5 } })), 0)],
    ['encoding', matteKey('frame 7', { ...task(sighting()), encoding: 'logc3' }, 0)],
    ['size', matteKey('frame 7', { ...task(sighting()), scale: 0.5 }, 0)],
    ['balance', matteKey('frame 7', { ...task(sighting()), balance: { exposureStops: 1 } as never }, 0)],
  ])('only of the same %s', (_, other) => {
    expect(other).not.toBe(known);
  });
  it('where it is steadied only with the same frames and stacks around it', () => {
    const steadied = (around: ReturnType<typeof near>[]) =>
      matteKey('frame 7', { ...task(sighting(8, { steadyFrames: 1 })), around }, 0);
    const one = steadied([near(-1, 8), near(1, 8)]);
    expect(one).not.toBe(known);
    expect(steadied([near(-1, 8), near(1, 9)])).not.toBe(one);
    expect(steadied([near(-1, 8)])).not.toBe(one);
    expect(steadied([near(-2, 3), near(-1, 8), near(1, 8)])).toBe(one);
  });
  it('not where strokes or other footage decide', () => {
    const plate = { ...PLAIN_LAYER, kind: 'plate', mediaId: 'm', channel: 'alpha', offsetFrames: 0 };
    const scribble = { ...PLAIN_LAYER, kind: 'scribble', strokes: [] };
    const group = (layer: object) => ({ ...PLAIN_LAYER, kind: 'group', layers: [layer] });
    for (const layer of [plate, scribble, group(plate), group(scribble)])
      expect(matteKey('frame 7', task({ ...sighting(), layers: [layer as never] }), 0)).toBeUndefined();
  });
});

it('mattes that were not wanted for the longest are let go first', () => {
  const [kept, alpha] = [keptMattes(4000), new Float32Array(250)];
  const box = { x0: 0, y0: 0, x1: 250, y1: 1 };
  for (const key of ['a', 'b', 'c']) kept.set(key, { box, alpha });
  kept.get('a');
  kept.set('d', { box, alpha });
  expect(['a', 'b', 'c', 'd'].filter((key) => kept.has(key))).toEqual(['a', 'c', 'd']);
});

describe('A sample', () => {
  const key = (...cx: number[]) => sampleKey('frame 7', task(...cx.map((x) => sighting(x))), 0);
  it('is known again by the mattes of all pieces, whatever becomes of their colours', () => {
    const known = key(8, 18);
    const recoloured = sighting(8, { program: shiftProgram({ saturation: 0 }) });
    expect(sampleKey('frame 7', task(recoloured, sighting(18)), 0)).toBe(known);
    for (const other of [key(9, 18), key(8, 17), key(8), sampleKey('frame 7', task(sighting(8), sighting(18)), 1)])
      expect(other).not.toBe(known);
    const scribble = { ...PLAIN_LAYER, kind: 'scribble', strokes: [] } as never;
    expect(sampleKey('frame 7', task(sighting(), { ...sighting(), layers: [scribble] }), 0)).toBeUndefined();
  });
  it('is let go of when others were wanted since', () => {
    const plane = new Uint16Array(100);
    const sample = { codes: { width: 100, height: 1, r: plane, g: plane, b: plane }, alpha: new Float32Array(100) };
    const kept = keptSamples(2600);
    for (const name of ['a', 'b', 'c']) kept.set(name, { ...sample, clipped: new Uint32Array(0) } as never);
    expect(['a', 'b', 'c'].filter((name) => kept.has(name))).toEqual(['b', 'c']);
  });
});

describe('What is measured', () => {
  const pool = new RenderPool(1);
  afterAll(() => pool.close());
  const sightings = [sighting(8), sighting(14)];
  const asked = () => ({
    ...{ codes: codes(), encoding: 'rec709' as const, scale: 1, plates: {}, carried: {}, sightings, index: 1 },
    colourways: [sightings.map((s) => s.program)],
  });

  const apart = () => ({ ...asked(), sightings: [sighting(3), sighting(18)] });

  it('with mattes that were made before is the same', async () => {
    const made = await pool.measure({ ...asked(), mattes: [] });
    expect(made.colourways[0]).toBeDefined();
    expect(made.mattes.map((matte) => matte!.alpha.some((v) => v > 0 && v < 1))).toEqual([true, true]);
    const again = await pool.measure({ ...asked(), mattes: made.mattes });
    expect(again).toEqual({ ...made, mattes: [undefined, undefined] });
    const half = await pool.measure({ ...asked(), mattes: [undefined, made.mattes[1]] });
    expect(half).toEqual({ ...made, mattes: [made.mattes[0], undefined] });
  });
  it('by its sample alone is the same, under other recolours too', async () => {
    const balance = { ...NEUTRAL_BALANCE, exposureStops: 0.5 };
    const others = [shiftProgram({ hueDeg: 70 }), shiftProgram({ density: 0.5 })];
    const asked = { ...apart(), balance, mattes: [], colourways: others.map((program) => [others[0]!, program]) };
    const { colourways, sample } = await pool.measure(asked);
    expect(colourways[0]).not.toEqual(colourways[1]);
    const { encoding } = asked;
    const frames = [
      { sample: sample!, programs: others },
      { sample: 'nothing' as const, programs: others },
    ];
    const again = await pool.measureAgain({ encoding, balance, frames });
    expect(again).toEqual([colourways, [undefined, undefined]]);
  });
  it('has no sample where another piece meets it', async () => {
    expect((await pool.measure({ ...asked(), mattes: [] })).sample).toBeUndefined();
  });
  it('is measured within them', async () => {
    const nothing = { box: { x0: 0, y0: 0, x1: 0, y1: 0 }, alpha: new Float32Array() };
    const found = await pool.measure({ ...asked(), mattes: [undefined, nothing] });
    expect([found.colourways, found.sample]).toEqual([[undefined], 'nothing']);
  });
});
