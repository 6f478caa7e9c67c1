import type { Animated, Ease, Keyframe, NumberKeyframe } from '../document/animation.ts';
import type { Geometry, PathPoint } from '../document/geometry.ts';
import type { ShapeLayer } from '../document/layer.ts';
import { nearestOnPath } from '../shape/edit.ts';
import { withPointAdded } from '../shape/path.ts';
import { withKeyframe, withKeyframeFromHere } from './keyframes.ts';
import { geometryAt, geometryWith, numbersOfGeometry } from './geometryAt.ts';
import { numberOf, withNumber } from './numbers.ts';

/**
 * How an edit meets keyframes. `auto`: what has none gets its first, which holds for the whole shot; `from here`:
 * more keyframes keep what stood before this frame, on every whole frame. `everywhere`: the same
 * change on all of them.
 */
export interface Keyframing {
  frame: number;
  auto: boolean | 'from here';
  everywhere: boolean;
  ease: Ease;
}

/** Keyframes of a number after it was changed from `before` to `after` on a frame. */
export function numberKeyframesEdited(
  keys: readonly NumberKeyframe[],
  before: number,
  after: number,
  { frame, auto, everywhere, ease }: Keyframing,
): NumberKeyframe[] {
  if (everywhere) return keys.map((k) => ({ ...k, value: k.value + after - before }));
  const own: NumberKeyframe = { frame, value: after, ease: keys.find((k) => k.frame === frame)?.ease ?? ease };
  return auto === 'from here' ? withKeyframeFromHere(keys, own) : withKeyframe(keys, own);
}

function firstKeyframes(before: number, after: number, { frame, auto, ease }: Keyframing): NumberKeyframe[] {
  const own: NumberKeyframe = { frame, value: after, ease };
  return auto === 'from here' && frame > 0 ? [{ frame: 0, value: before, ease: 'hold' }, own] : [own];
}

/** Dotted names of all numbers of an object, arrays and what is listed in `but` left out. */
export function numberNames(object: unknown, but: readonly string[] = [], prefix = ''): string[] {
  if (typeof object !== 'object' || object === null || Array.isArray(object)) return [];
  return Object.entries(object).flatMap(([key, value]) => {
    const name = prefix + key;
    if (but.includes(name)) return [];
    return typeof value === 'number' ? [name] : numberNames(value, but, `${name}.`);
  });
}

const namesOfBoth = (a: unknown, b: unknown, but: readonly string[]): Set<string> =>
  new Set([...numberNames(a, but), ...numberNames(b, but)].filter((n) => !n.startsWith('animated.')));

/**
 * Folds an edit made on what was shown on a frame into what is stored: numbers that have keyframes (or get them, with
 * auto-key) change there, all else is replaced.
 */
export function foldNumbers<T extends { animated?: Animated | undefined }>(
  stored: T,
  shown: T,
  edited: T,
  keyframing: Keyframing,
  but: readonly string[] = [],
): T {
  let out: T = edited;
  // keyframes set or taken away by the edit itself count
  const animated: Record<string, readonly NumberKeyframe[]> = { ...edited.animated };
  const getsNew = keyframing.auto && !keyframing.everywhere;
  // with every move of a hand: numbers are gone through only where keyframes can come of it
  const mayMatter = getsNew || Object.keys(animated).length > 0;
  for (const name of mayMatter ? namesOfBoth(shown, edited, but) : []) {
    const [before, after] = [numberOf(shown, name), numberOf(edited, name)];
    if (before === undefined || after === undefined) continue;
    const keys = animated[name];
    // the number itself stays what it was where keyframes say what it is
    if (keys) out = withNumber(out, name, numberOf(stored, name) ?? after);
    if (before === after) continue;
    if (keys) animated[name] = numberKeyframesEdited(keys, before, after, keyframing);
    else if (getsNew) animated[name] = firstKeyframes(before, after, keyframing);
  }
  return Object.keys(animated).length > 0 || edited.animated
    ? { ...out, animated: Object.keys(animated).length > 0 ? animated : undefined }
    : out;
}

/** Which points went, or where one came in, between two versions of a spline; undefined when the count is the same. */
function pointChange(
  before: readonly PathPoint[],
  after: readonly PathPoint[],
): { added: { index: number; t: number } } | { removed: ReadonlySet<number> } | undefined {
  if (after.length === before.length) return undefined;
  const same = (p: PathPoint, q: PathPoint) => p.x === q.x && p.y === q.y;
  if (after.length < before.length) {
    const removed = new Set<number>();
    let j = 0;
    before.forEach((p, i) => (j < after.length && same(p, after[j]!) ? j++ : removed.add(i)));
    return { removed };
  }
  const index = after.findIndex((p, i) => i >= before.length || !same(p, before[i]!));
  const near = nearestOnPath(before, after[index]!.x, after[index]!.y);
  return { added: { index: index - 1, t: near?.index === index - 1 ? near.t : 0.5 } };
}

/**
 * A shape's path after an edit on one frame, in the shape's own frame. With keyframes the edit goes to the one on this
 * frame (made if need be) or, everywhere, as the same change to all. A point added or taken away is so on all of them.
 */
export function pathEdited(
  layer: Pick<ShapeLayer, 'geometry' | 'paths'>,
  after: Geometry,
  keyframing: Keyframing,
): Pick<ShapeLayer, 'geometry' | 'paths'> {
  const { frame, auto, everywhere, ease } = keyframing;
  const keys = layer.paths;
  if (!keys?.length)
    return auto && !everywhere
      ? { geometry: after, paths: [{ frame, value: after, ease }] }
      : { geometry: after, paths: layer.paths };
  const before = geometryAt(keys, frame);
  if (before.form !== after.form) return { geometry: after, paths: undefined };
  if (before.form === 'spline' && after.form === 'spline') {
    const change = pointChange(before.points, after.points);
    if (change) {
      const changed = (points: readonly PathPoint[]) =>
        'added' in change
          ? withPointAdded(points, change.added.index, change.added.t)
          : points.filter((_, i) => !change.removed.has(i));
      const paths = keys.map((k) => ({
        ...k,
        value: { form: 'spline' as const, points: changed((k.value as { points: PathPoint[] }).points) },
      }));
      return {
        geometry: { form: 'spline', points: changed((layer.geometry as { points: PathPoint[] }).points) },
        paths,
      };
    }
  }
  if (everywhere) {
    const [from, to] = [numbersOfGeometry(before), numbersOfGeometry(after)];
    const moved = (g: Geometry) =>
      geometryWith(
        g,
        numbersOfGeometry(g).map((v, i) => v + to[i]! - from[i]!),
      );
    return { geometry: moved(layer.geometry), paths: keys.map((k) => ({ ...k, value: moved(k.value) })) };
  }
  return {
    geometry: layer.geometry,
    paths: withKeyframe<Geometry>(keys, {
      frame,
      value: after,
      ease: keys.find((k) => k.frame === frame)?.ease ?? ease,
    }),
  };
}

/** A keyframe set on a frame at what the thing is there, or taken away where there is one. */
export function keyframeToggled<T>(
  keys: readonly Keyframe<T>[] | undefined,
  frame: number,
  now: T,
  ease: Ease,
): Keyframe<T>[] | undefined {
  const rest = (keys ?? []).filter((k) => k.frame !== frame);
  const next = rest.length < (keys ?? []).length ? rest : withKeyframe(keys ?? [], { frame, value: now, ease });
  return next.length > 0 ? next : undefined;
}
