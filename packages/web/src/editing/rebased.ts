// A three-way merge of values as JSON has them: what was made of a value, laid over what that has become meanwhile.
import { isEqual, isPlainObject } from 'es-toolkit';

type Named = { id: string };
const isNamedList = (value: unknown): value is Named[] =>
  Array.isArray(value) && value.every((v) => isPlainObject(v) && typeof (v as Partial<Named>).id === 'string');

/** What was changed a little is no longer there to be changed. */
export class NothingToChange extends Error {}

/**
 * `now` with what `made` has changed of `over`. Objects are merged member by member, lists of things with ids thing by
 * thing; of any other value that both have changed, such as a colour or a curve, `made` counts. Throws
 * `NothingToChange` where a part of something was changed that is gone or another kind of thing: the rest of it cannot
 * be known.
 */
export function rebased<T>(over: T, made: T, now: T): T;
export function rebased(over: unknown, made: unknown, now: unknown): unknown {
  if (isEqual(over, made)) return now;
  if (isEqual(over, now) || isEqual(made, now)) return made;
  const all = [over, made, now];
  if (all.every((v) => isPlainObject(v))) return mergedMembers(over as Members, made as Members, now as Members);
  if (all.every(isNamedList)) return mergedList(over as Named[], made as Named[], now as Named[]);
  if (isPlainObject(over) && isPlainObject(made)) throw new NothingToChange();
  return made;
}

type Members = Readonly<Record<string, unknown>>;
function mergedMembers(over: Members, made: Members, now: Members): Members {
  const keys = new Set([...Object.keys(now), ...Object.keys(made)]);
  const merged = [...keys].map((key) => [key, rebased(over[key], made[key], now[key])] as const);
  return Object.fromEntries(merged.filter(([, value]) => value !== undefined));
}

/** In the order in which they were made, unless that is as it was. */
function mergedList(over: readonly Named[], made: readonly Named[], now: readonly Named[]): Named[] {
  const ids = (list: readonly Named[]) => list.map((item) => item.id);
  const isOrdered = isEqual(ids(over), ids(made));
  const [first, second] = isOrdered ? [now, made] : [made, now];
  const find = (list: readonly Named[], id: string) => list.find((item) => item.id === id);
  const order = [...new Set([...ids(first), ...ids(second)])];
  return order.flatMap((id) => rebased(find(over, id), find(made, id), find(now, id)) ?? []);
}
