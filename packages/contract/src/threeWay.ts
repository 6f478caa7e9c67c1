import { isEqual, isPlainObject } from 'es-toolkit';

type Fields = Readonly<Record<string, unknown>>;
type Sides = readonly [now: unknown, from: unknown, to: unknown];
type Named = { id: string };

/** Things with ids in a list: layers of a stack, say. */
export const isNamedList = (value: unknown): value is readonly Named[] =>
  Array.isArray(value) && value.every((v) => isPlainObject(v) && typeof (v as Partial<Named>).id === 'string');
const idsOf = (list: unknown): unknown => isNamedList(list) && list.map((item) => item.id);
/** Lists of the same things in the same order, whose insides alone have changed. */
const areAlike = (sides: readonly unknown[]): sides is readonly [Named[], Named[], Named[]] =>
  sides.every(isNamedList) && sides.every((side) => isEqual(idsOf(side), idsOf(sides[0])));
const areFields = (sides: readonly unknown[]): sides is readonly [Fields, Fields, Fields] => sides.every(isPlainObject);

/**
 * A three-way merge of values as JSON has them: `now`, with `to` in every place where `from` and `to` differ, member by
 * member and thing by thing. `onClash` says what becomes of a place where all three differ.
 */
export function threeWay(now: unknown, from: unknown, to: unknown, onClash: (...sides: Sides) => unknown): unknown {
  if (isEqual(from, to)) return now;
  if (isEqual(now, from)) return to;
  const sides = [now, from, to];
  if (areAlike(sides)) return sides[0].map((item, i) => threeWay(item, sides[1][i], sides[2][i], onClash));
  if (!areFields(sides)) return onClash(now, from, to);
  const [nowHas, fromHas, toHas] = sides;
  const keys = [...new Set([...Object.keys(nowHas), ...Object.keys(toHas)])];
  const merged = keys.map((key) => [key, threeWay(nowHas[key], fromHas[key], toHas[key], onClash)] as const);
  return Object.fromEntries(merged.filter(([, value]) => value !== undefined));
}
