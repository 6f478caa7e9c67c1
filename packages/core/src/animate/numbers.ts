import type { Animated } from '../document/animation.ts';
import { numberAt } from './keyframes.ts';

/** The number of that name; undefined where the object has none. */
export function numberOf(object: unknown, name: string): number | undefined {
  let at = object;
  for (const part of name.split('.')) {
    if (typeof at !== 'object' || at === null) return undefined;
    at = (at as Record<string, unknown>)[part];
  }
  return typeof at === 'number' ? at : undefined;
}

/** A copy with one number set; the same object where it has no number of that name. */
export function withNumber<T>(object: T, name: string, value: number): T {
  if (numberOf(object, name) === undefined) return object;
  const [head, ...rest] = name.split('.');
  const record = object as Record<string, unknown>;
  const next = rest.length === 0 ? value : withNumber(record[head!], rest.join('.'), value);
  return (Array.isArray(object) ? Object.assign([...object], { [head!]: next }) : { ...record, [head!]: next }) as T;
}

/** The object as its animation has it on a frame. */
export function numbersAt<T>(object: T, animated: Animated | undefined, frame: number): T {
  let out = object;
  for (const [name, keys] of Object.entries(animated ?? {}))
    if (keys.length > 0) out = withNumber(out, name, numberAt(keys, frame));
  return out;
}
