import { NEUTRAL_GAIN, NEUTRAL_RECIPE, NEUTRAL_SHIFT, whiteMatrix } from '@mellow/core';
import { describe, expect, it } from 'vitest';
import { lightByHand, nextPatchName, setLight, setMatch, setPatches, setReferenceShot, setTrims } from './match.ts';
import { after, at, documentWith, shape, stored } from './testing.ts';

const document = documentWith([shape('a')]);
const [bar, street] = document.shots.map((s) => s.value);
const gain = { long: 2, middle: 1, short: 0.5 };
const light = { how: 'probe' as const, matrix: [1, 0, 0, 0, 1, 0, 0, 0, 0.5] as never };

describe('a match', () => {
  it('by gain takes the place of a shift, one by shift that of a gain; strength stays', () => {
    const recipe = { ...NEUTRAL_RECIPE, id: 'r', projectId: 'p', pieceId: 'cup', colourwayId: 'c', animated: {} };
    const shift = { ...NEUTRAL_SHIFT, hueDeg: 40 };
    const before = { ...document, recipes: stored({ ...recipe, shift, strength: 0.5 }) } as never;
    const byGain = setMatch(before, at(0), { gain });
    expect(byGain.label).toBe('Match of Cup');
    expect(after(before, byGain).recipes[0]!.value).toMatchObject({ match: gain, shift: NEUTRAL_SHIFT, strength: 0.5 });
    const byShift = setMatch(before, at(0), { shift });
    expect(after(before, byShift).recipes[0]!.value).toMatchObject({ match: NEUTRAL_GAIN, shift });
  });
});

it('a match that lifts a dark piece sets the dye it keeps; another leaves the dye as it is', () => {
  const lifted = after(document, setMatch(document, at(0), { gain, dye: 0.4 }));
  expect(lifted.recipes[0]!.value.finer.dye).toEqual({ on: true, concentration: 0.4 });
  const soft = after(document, setMatch(document, at(0), { gain, softenPx: 2.7 }));
  expect(soft.recipes[0]!.value.finer.texture).toMatchObject({ on: true, colourPx: 2.7, softenPx: 0 });
  const again = after(lifted, setMatch(lifted, at(0), { gain }));
  expect(again.recipes[0]!.value.finer.dye).toEqual({ on: true, concentration: 0.4 });
});
describe('a light', () => {
  const [bar2, street2] = document.shots.map((s) => s.value);
  it('by hand is that white at that strength, and says what was set', () => {
    const byHand = { warmthMired: 30, tint: 5, exposureStops: 1 };
    const [edit] = setLight(street2!, lightByHand(byHand)).edits;
    const light2 = (edit!.value as { light: { how: string; byHand: object; matrix: number[] } }).light;
    expect([light2.how, light2.byHand]).toEqual(['hand', byHand]);
    whiteMatrix(30, 5).forEach((v, i) => expect(light2.matrix[i]).toBeCloseTo(2 * v, 12));
  });
  it('has its patches named after those of the reference shot that are not here yet', () => {
    const patch = (name: string, isNeutral = false) => ({ name, isNeutral, frame: 0, x0: 0, y0: 0, x1: 9, y1: 9 });
    const reference = { ...bar2!, patches: [patch('A', true), patch('B'), patch('C')] };
    expect(nextPatchName(street2!, reference, false)).toBe('B');
    expect(nextPatchName(street2!, reference, true)).toBe('A');
    const some = { ...street2!, patches: [patch('B'), patch('A', true)] };
    expect([nextPatchName(some, reference, false), nextPatchName(some, reference, true)]).toEqual(['C', 'D']);
    expect(nextPatchName(bar2!, undefined, true)).toBe('A');
    const next = after(document, setPatches(street2!, [patch('A')], 'Pick patch A'));
    expect(next.shots[1]!.value.patches.map((p) => p.name)).toEqual(['A']);
  });
});
describe('a repaint', () => {
  const body = { invariant: -2, direction: -1, confidence: 0.9, light: [1, 1, 1], slope: 1.7 } as const;
  it('keeps sheen apart, and says in the sighting how it is told', () => {
    const change = setMatch(document, at(0), { gain, body: body as never });
    const next = after(document, change);
    expect(change.label).toBe('Repaint of Cup');
    expect(next.recipes[0]!.value).toMatchObject({ match: gain, repaint: { on: true, sheen: 1 } });
    expect(next.sightings[0]!.value.body).toEqual(body);
  });
  it('is a match where sheen cannot be told', () => {
    const change = setMatch(document, at(0), { gain, body: { ...body, confidence: 0 } as never });
    expect(change.label).toBe('Match of Cup');
    expect(after(document, change).recipes[0]!.value.repaint.on).toBe(false);
  });
});

describe('a shot’s light', () => {
  it('is set, and taken away again, by name', () => {
    expect(setLight(street!, light)).toEqual({
      label: 'Take the light of Street',
      edits: [{ kind: 'shot', id: 's2', value: { ...street, light } }],
    });
    const gone = setLight({ ...street!, light }, null);
    expect([gone.label, after(document, gone).shots[1]!.value.light]).toEqual(['No light of its own for Street', null]);
  });
  it('is none in the reference shot; the others are stated against it from then on', () => {
    const project = stored({ ...document.project.value, referenceShotId: bar!.id })[0]!;
    const lit = { ...document, project, shots: stored(bar!, { ...street!, light }) };
    const next = after(lit, setReferenceShot(lit, { ...street!, light }));
    expect([next.project.value.referenceShotId, next.shots[1]!.value.light]).toEqual(['s2', null]);
    expect(next.shots[0]!.value.light).toEqual({ how: 'probe', matrix: [1, 0, 0, 0, 1, 0, 0, 0, 2] });
    expect(setReferenceShot(document, street!).edits).toHaveLength(1);
  });
});

describe('trims', () => {
  const trimsOf = (d: typeof document) => d.sightings[0]!.value.trims as Record<string, unknown>;
  it('are laid in one step, keep their own shift, and leave other colourways alone', () => {
    const other = { gain: NEUTRAL_GAIN, shift: NEUTRAL_SHIFT };
    const shift = { ...NEUTRAL_SHIFT, density: 0.1 };
    const before = documentWith([shape('a')], { trims: { b: other, c: { gain: NEUTRAL_GAIN, shift } } as never });
    const change = setTrims(before, 'c', 'Solve the trims of Cup', [
      { sightingId: 'x', gain },
      { sightingId: 'gone', gain },
    ]);
    expect([change.label, change.edits.length]).toEqual(['Solve the trims of Cup', 1]);
    expect(trimsOf(after(before, change))).toEqual({ b: other, c: { gain, shift } });
    expect(trimsOf(after(before, setTrims(before, 'c', '', [{ sightingId: 'x', gain: null }])))).toEqual({ b: other });
  });
  it('begin without a shift', () =>
    expect(trimsOf(after(document, setTrims(document, 'c', '', [{ sightingId: 'x', gain }])))).toEqual({
      c: { gain, shift: NEUTRAL_SHIFT },
    }));
});
