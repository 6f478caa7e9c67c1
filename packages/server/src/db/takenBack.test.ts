import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Clash, stepped } from './takenBack.ts';

const recipe = { id: 'r', shift: { hueDeg: 0, saturation: 1 }, strength: 1, layers: [{ id: 'a', on: true }] };

describe('a step of one’s own', () => {
  it('gives the other side where nothing has happened since', () => {
    const to = { ...recipe, strength: 0.5 };
    expect(stepped(recipe, recipe, to)).toEqual(to);
    expect(stepped(null, null, recipe)).toEqual(recipe);
    expect(stepped(recipe, recipe, null)).toBeNull();
  });
  it('leaves what others have changed beside it, however deep', () => {
    const mine = { ...recipe, shift: { hueDeg: 40, saturation: 1 } };
    const now = { ...mine, strength: 0.5, shift: { hueDeg: 40, saturation: 2 } };
    expect(stepped(now, mine, recipe)).toEqual({ ...recipe, strength: 0.5, shift: { hueDeg: 0, saturation: 2 } });
  });
  it('goes into the layers of a stack by their ids, as long as they are the same ones', () => {
    const layers = (a: boolean, b: boolean) => ({
      layers: [
        { id: 'a', on: a },
        { id: 'b', on: b },
      ],
    });
    expect(stepped(layers(false, false), layers(false, true), layers(true, true))).toEqual(layers(true, false));
    const without = { layers: [{ id: 'b', on: true }] };
    expect(() => stepped(without, layers(false, true), layers(true, true))).toThrow(Clash);
  });
  it('takes back fields that it has made, and brings those that it has dropped', () => {
    expect(stepped({ trims: { one: 1, two: 2 } }, { trims: { one: 1 } }, { trims: {} })).toEqual({ trims: { two: 2 } });
    expect(stepped({ trims: { two: 2 } }, { trims: {} }, { trims: { one: 1 } })).toEqual({ trims: { one: 1, two: 2 } });
  });
  it('is refused where what stands is neither of its sides', () => {
    expect(() => stepped({ ...recipe, strength: 0.2 }, { ...recipe, strength: 0.5 }, recipe)).toThrow(Clash);
    expect(() => stepped(null, recipe, { ...recipe, strength: 0.5 })).toThrow(Clash);
    expect(() => stepped({ ...recipe, strength: 0.2 }, recipe, null)).toThrow(Clash);
  });
  it('is the same there and back, for any values of three fields', () => {
    const field = fc.constantFrom(0, 1, 2);
    const value = fc.record({ a: field, b: field, c: field });
    fc.assert(
      fc.property(value, value, field, (before, after, theirs) => {
        // another has changed c alone
        const now = { ...after, c: before.c === after.c ? theirs : after.c };
        const back = stepped(now, after, before);
        expect(stepped(back, before, after)).toEqual(now);
      }),
    );
  });
});
