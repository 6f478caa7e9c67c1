// One's own step is taken back though others have gone on: field by field, as in a three-way merge.
import { isDeepStrictEqual } from 'node:util';

/** Somebody has changed since what a step changed. */
export class Clash extends Error {}

type Fields = Record<string, unknown>;
const isFields = (value: unknown): value is Fields =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
const idsOf = (list: readonly unknown[]): unknown[] => list.map((item) => (isFields(item) ? item.id : undefined));
/** Lists of the same things in the same order: layers of a stack, whose insides alone have changed. */
function areAlike(lists: readonly unknown[]): lists is readonly [unknown[], unknown[], unknown[]] {
  if (!lists.every((list) => Array.isArray(list))) return false;
  const [first, ...others] = lists.map(idsOf);
  return !first!.includes(undefined) && others.every((ids) => isDeepStrictEqual(ids, first));
}

/**
 * What stands now, with `to` in every place where a step's two sides differ: what others have changed beside it stays.
 * `from` is what stood on the side of the step that is left. Throws Clash where what stands is neither.
 */
export function stepped(now: unknown, from: unknown, to: unknown): unknown {
  if (isDeepStrictEqual(from, to)) return now;
  if (isDeepStrictEqual(now, from)) return to;
  const lists = [now, from, to];
  if (areAlike(lists)) return lists[0].map((item, i) => stepped(item, lists[1][i], lists[2][i]));
  if (!isFields(now) || !isFields(from) || !isFields(to)) throw new Clash();
  const made: Fields = {};
  for (const key of new Set([...Object.keys(now), ...Object.keys(to)])) {
    const value = stepped(now[key], from[key], to[key]);
    if (value !== undefined) made[key] = value;
  }
  return made;
}
