// What was made of a value, laid over what that has become meanwhile.
import { isNamedList, threeWay } from '@mellow/contract';
import { isEqual, isPlainObject } from 'es-toolkit';

/** What was changed a little is no longer there to be changed. */
export class NothingToChange extends Error {}

/**
 * `now` with what `made` has changed of `over`. Of what both have changed, such as a colour or a curve, `made` counts;
 * lists of things with ids are merged thing by thing. Throws `NothingToChange` where a part of something was changed
 * that is gone or another kind of thing: the rest of it cannot be known.
 */
export const rebased = <T>(over: T, made: T, now: T): T => threeWay(now, over, made, whereBothChanged) as T;

function whereBothChanged(now: unknown, over: unknown, made: unknown): unknown {
  if (isEqual(made, now)) return made;
  if (isNamedList(over) && isNamedList(made) && isNamedList(now)) return mergedList(over, made, now);
  if (isPlainObject(over) && isPlainObject(made)) throw new NothingToChange();
  return made;
}

type Named = readonly { id: string }[];
/** In the order in which they were made, unless that is as it was. */
function mergedList(over: Named, made: Named, now: Named): Named {
  const ids = (list: Named) => list.map((item) => item.id);
  const isOrdered = isEqual(ids(over), ids(made));
  const [first, second] = isOrdered ? [now, made] : [made, now];
  const find = (list: Named, id: string) => list.find((item) => item.id === id);
  const order = [...new Set([...ids(first), ...ids(second)])];
  return order.flatMap((id) => rebased(find(over, id), find(made, id), find(now, id)) ?? []);
}
