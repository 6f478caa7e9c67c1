import { describe, expect, it } from 'vitest';
import { NO_FINER } from './finer.ts';
import { balanceOf, rendersOfShot } from './rendersOfShot.ts';

const LIGHT = { how: 'hand', matrix: [1.2, 0, 0, 0, 1, 0, 0, 0, 0.8] };
type Document = Parameters<typeof rendersOfShot>[0];
const own = (value: object) => ({ value, revision: 1 });
const sighting = (pieceId: string, shotId = 's', more: object = {}) =>
  own({ pieceId, shotId, layers: [], cleanUp: null, spill: null, steadyFrames: 0, trims: {}, animated: {}, ...more });
const shift = { exposureStops: 0, hueDeg: 40, saturation: 1.2, density: 0 };
const noGain = { long: 1, middle: 1, short: 1 };
const recipe = (pieceId: string, colourwayId: string, more: object = {}) =>
  own({ pieceId, colourwayId, match: noGain, shift, finer: NO_FINER, strength: 0.5, animated: {}, ...more });
const documentOf = (sightings: object[], recipes: object[] = []) =>
  ({
    pieces: ['a', 'b', 'c'].map((id) => own({ id })),
    shots: [own({ id: 's', light: null, encoding: 'rec2020' }), own({ id: 'other', light: LIGHT })],
    sightings,
    recipes,
  }) as unknown as Document;
const keys = (value: number) => [{ frame: 3, value, ease: 'hold' }];

describe('what is rendered of a shot', () => {
  it('is the shot’s own sightings, in the order of the pieces', () => {
    const d = documentOf([sighting('c'), sighting('a', 'other'), sighting('b'), sighting('a')]);
    expect(rendersOfShot(d, 's', undefined).sightings.map((s) => s.pieceId)).toEqual(['a', 'b', 'c']);
    expect(rendersOfShot(d, 'none', undefined).renders).toEqual([]);
  });
  it('has the recipe of the piece in the colourway, and a neutral one without', () => {
    const d = documentOf([sighting('a'), sighting('b')], [recipe('b', 'red'), recipe('a', 'blue')]);
    const neutral = { exposureStops: 0, hueDeg: 0, saturation: 1, density: 0 };
    const shiftsIn = (colourway?: string) => rendersOfShot(d, 's', colourway).renders.map((r) => [r.shift, r.strength]);
    expect(shiftsIn('red')).toEqual([
      [neutral, 1],
      [shift, 0.5],
    ]);
    expect(shiftsIn('blue')).toEqual([
      [shift, 0.5],
      [neutral, 1],
    ]);
    expect(shiftsIn()).toEqual([
      [neutral, 1],
      [neutral, 1],
    ]);
  });
  it('names clean-up, spill, steadying and keyframes only where there are some', () => {
    const [plain] = rendersOfShot(documentOf([sighting('a')]), 's', undefined).renders;
    expect(plain).toEqual({
      layers: [],
      cleanUp: undefined,
      spill: undefined,
      match: noGain,
      repaint: { on: false, sheen: 1 },
      finer: NO_FINER,
      shift: expect.anything(),
      strength: 1,
    });
    expect(Object.keys(plain!)).not.toContain('steadyFrames');
    const more = { cleanUp: { edgePx: 1 }, spill: { mode: 'remove' }, steadyFrames: 2 };
    expect(rendersOfShot(documentOf([sighting('a', 's', more)]), 's', undefined).renders[0]).toMatchObject(more);
  });
  it('has the shot’s light where it is known, and the trim of the colourway', () => {
    const trim = { gain: { long: 1.1, middle: 1, short: 1 }, shift };
    const d = documentOf([sighting('a', 's', { trims: { red: trim } }), sighting('a', 'other')]);
    expect(rendersOfShot(d, 's', 'red').renders[0]).toMatchObject({ trim });
    expect(Object.keys(rendersOfShot(d, 's', 'blue').renders[0]!)).not.toContain('trim');
    expect(Object.keys(rendersOfShot(d, 's', 'red').renders[0]!)).not.toContain('light');
    expect(rendersOfShot(d, 'other', 'red').renders[0]).toMatchObject({ light: LIGHT.matrix });
  });
  it('has the shot’s encoding where the recipe keeps to its gamut', () => {
    const finer = { ...NO_FINER, guard: { on: true, knee: 0.8 } };
    const d = documentOf([sighting('a')], [recipe('a', 'red', { finer }), recipe('a', 'blue')]);
    expect(rendersOfShot(d, 's', 'red').renders[0]).toMatchObject({ finer, encoding: 'rec2020' });
    expect(Object.keys(rendersOfShot(d, 's', 'blue').renders[0]!)).not.toContain('encoding');
  });
  it('has the sighting’s keyframes and the recipe’s of that shot, not of another', () => {
    const d = documentOf(
      [sighting('a', 's', { animated: { 'cleanUp.edgePx': keys(2) } })],
      [recipe('a', 'red', { animated: { s: { 'shift.hueDeg': keys(40) }, other: { strength: keys(0) } } })],
    );
    const [render] = rendersOfShot(d, 's', 'red').renders;
    expect(render!.animated).toEqual({ 'cleanUp.edgePx': keys(2), 'shift.hueDeg': keys(40) });
  });
});

it('a shot without a balance has none', () => {
  expect(balanceOf({ balance: null })).toBeUndefined();
  const balance = { exposureStops: 1 } as never;
  expect(balanceOf({ balance })).toBe(balance);
});
