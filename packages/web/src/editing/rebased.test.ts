import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { NothingToChange, rebased } from './rebased.ts';

const layer = (id: string, more: object = {}) => ({ id, name: id, ...more });

describe('what was made of a value, over what it has become', () => {
  it('leaves what one side alone has changed as that side has it', () => {
    const json = fc.jsonValue({ maxDepth: 3 });
    fc.assert(
      fc.property(json, json, (over, other) => {
        expect(rebased(over, other, over)).toEqual(other);
        expect(rebased(over, over, other)).toEqual(other);
        expect(rebased(over, other, other)).toEqual(other);
      }),
      { seed: 7 },
    );
  });
  it('takes members from whichever side has changed them, that were added or left out too', () => {
    const over = { look: { file: 'a', amount: 1 }, grain: 0.2, note: 'x' };
    const made = { look: { file: 'b', amount: 1 }, note: 'x', shown: true };
    const now = { look: { file: 'a', amount: 0.5 }, grain: 0.2, note: 'y', turned: 3 };
    const both = { look: { file: 'b', amount: 0.5 }, note: 'y', shown: true, turned: 3 };
    expect(rebased<object>(over, made, now)).toEqual(both);
  });
  it('counts what was made where both have changed the same; a colour or a curve is one thing', () => {
    expect(rebased({ rgb: [1, 2, 3] }, { rgb: [9, 2, 3] }, { rgb: [1, 2, 8] })).toEqual({ rgb: [9, 2, 3] });
    expect(rebased({ points: [[0, 0]] }, { points: [[1, 1]] }, { points: [[0, 2]] })).toEqual({ points: [[1, 1]] });
    expect(rebased<unknown>({ look: null }, { look: { file: 'b' } }, { look: { file: 'a' } })).toEqual({
      look: { file: 'b' },
    });
    expect(rebased<unknown>({ look: { file: 'a' } }, { look: null }, { look: { file: 'b' } })).toEqual({ look: null });
  });
});

it('knows nothing of the rest of what was changed a little and is gone', () => {
  const [over, made] = [{ look: { file: 'a', amount: 1 } }, { look: { file: 'a', amount: 0.5 } }];
  expect(() => rebased<unknown>(over, made, { look: null })).toThrow(NothingToChange);
  expect(() => rebased<unknown>(over, made, {})).toThrow(NothingToChange);
  expect(() => rebased<unknown>(over, made, undefined)).toThrow(NothingToChange);
  expect(rebased<unknown>(over, { look: null }, {})).toEqual({ look: null });
});

describe('lists of things with ids', () => {
  const over = [layer('a'), layer('b')];
  it('are merged thing by thing', () => {
    const made = [layer('a'), layer('b', { soft: 2 })];
    expect(rebased<object[]>(over, made, [layer('a', { on: false }), layer('b', { on: true })])).toEqual([
      layer('a', { on: false }),
      layer('b', { soft: 2, on: true }),
    ]);
  });
  it('do without what either side has removed, unless it was changed before', () => {
    expect(rebased(over, [layer('b')], [layer('a'), layer('b'), layer('c')])).toEqual([layer('b'), layer('c')]);
    expect(rebased(over, [layer('a'), layer('b'), layer('c')], [layer('a')])).toEqual([layer('a'), layer('c')]);
    const changed = [layer('a'), layer('b', { soft: 2 })];
    expect(() => rebased<object[]>(over, changed, [layer('a')])).toThrow(NothingToChange);
    expect(rebased<object[]>(over, [layer('a')], changed)).toEqual([layer('a')]);
  });
  it('keep the order that was made, or else that which they have now', () => {
    expect(rebased(over, [layer('b'), layer('a')], [layer('a'), layer('b'), layer('c')])).toEqual(
      ['b', 'a', 'c'].map((id) => layer(id)),
    );
    expect(rebased<object[]>(over, [layer('a'), layer('b', { soft: 2 })], [layer('b'), layer('a')])).toEqual([
      layer('b', { soft: 2 }),
      layer('a'),
    ]);
  });
});
