import type {
  BrushLayer,
  BrushStroke,
  Geometry,
  GroupLayer,
  KeyLayer,
  Layer,
  LayerId,
  PlateLayer,
  ScribbleLayer,
  ShapeLayer,
  SingleLayer,
  Stroke,
} from '@mellow/contract';
import { KEYS, pathKeyframesFrom, type KeyKind } from '@mellow/core';
import { animatedLater, keysLater } from './movedInTime.ts';

const base = (name: string, mode: Layer['mode']) => ({
  id: crypto.randomUUID() as LayerId,
  name,
  on: true,
  mode,
  invert: false,
  strength: 1,
});
const count = (layers: readonly Layer[], kind: string) => layers.filter((l) => l.name.startsWith(kind)).length + 1;
/** A new layer adds when it is the first, and keeps within what is there otherwise. */
const joining = (layers: readonly Layer[]): Layer['mode'] => (layers.length === 0 ? 'add' : 'within');

export const isKey = (layer: Layer | undefined): layer is KeyLayer => layer !== undefined && layer.kind in KEYS;

export const newKey = (layers: readonly Layer[], kind: KeyKind = 'range'): KeyLayer => ({
  ...base(`${KEYS[kind].label} ${count(layers, KEYS[kind].label)}`, joining(layers)),
  kind,
  key: null,
  picks: [],
});

const FORM = { rectangle: 'Rectangle', ellipse: 'Ellipse', spline: 'Spline', gradient: 'Gradient' } as const;
export const newShape = (layers: readonly Layer[], geometry: Geometry): ShapeLayer => ({
  ...base(`${FORM[geometry.form]} ${count(layers, FORM[geometry.form])}`, joining(layers)),
  kind: 'shape',
  geometry,
  feather: { innerPx: 1, outerPx: 1, falloff: 'smooth' },
});

export const newBrush = (layers: readonly Layer[], stroke: BrushStroke): BrushLayer => ({
  ...base(`Brush ${count(layers, 'Brush')}`, 'add'),
  kind: 'brush',
  strokes: [stroke],
});

export const newScribble = (layers: readonly Layer[], stroke: Stroke): ScribbleLayer => ({
  ...base(`Scribble ${count(layers, 'Scribble')}`, joining(layers)),
  kind: 'scribble',
  strokes: [stroke],
});

/** A shape from a file: its keyframes of the path, as many as it has frames. */
export function shapeFromText(layers: readonly Layer[], text: string, firstFrame?: number): ShapeLayer {
  const { name, keys } = pathKeyframesFrom(text, firstFrame);
  return {
    ...newShape(layers, keys[0]!.value),
    name,
    ...(keys.length > 1 && { paths: keys }),
  };
}
/**
 * A copied layer ready for a stack: it follows no track that its new shot has not, and what it was carried to, and
 * what its strokes lay on, stays with the footage it came from.
 */
export function pastedInto(layer: Layer, trackIds: readonly string[]): Layer {
  const copy = copyOf(layer);
  if (copy.kind !== 'group') return settledIn(copy, trackIds);
  return { ...copy, layers: copy.layers.map((l) => settledIn(l, trackIds)) };
}
function settledIn(copied: SingleLayer, trackIds: readonly string[]): SingleLayer {
  const layer = copied.kind === 'scribble' ? pastedScribble(copied, trackIds) : copied;
  return 'follow' in layer && layer.follow && !trackIds.includes(layer.follow.trackId)
    ? { ...layer, follow: undefined }
    : layer;
}
function pastedScribble({ carried, ...rest }: ScribbleLayer, trackIds: readonly string[]): ScribbleLayer {
  const isThere = ({ follow }: Stroke) => !follow || trackIds.includes(follow.trackId);
  // what they lay on is of their own shot
  const strokes = rest.strokes.map(({ looks: _looks, ...s }) => (isThere(s) ? s : { ...s, follow: null }));
  return { ...rest, strokes, ...(carried && { carried: [] }) };
}
/** A copied layer with all its keyframes moved so that the first stands on a frame; unchanged when it has none. */
export function startingAt<L extends Layer>(layer: L, frame: number): L {
  const paths = layer.kind === 'shape' ? layer.paths : undefined;
  const all = [...(paths ?? []), ...Object.values(layer.animated ?? {}).flat()].map((k) => k.frame);
  if (all.length === 0) return layer;
  const by = frame - Math.min(...all);
  return {
    ...layer,
    ...(layer.animated && { animated: animatedLater(layer.animated, by) }),
    ...(paths && { paths: keysLater(paths, by) }),
  };
}

export const newPlate = (layers: readonly Layer[]): PlateLayer => ({
  ...base(`Plate matte ${count(layers, 'Plate matte')}`, joining(layers)),
  kind: 'plate',
  mediaId: null,
  channel: 'luma',
  offsetFrames: 0,
});

/** A copy with ids of its own, so that it can stand in any stack. */
function copyOf(layer: Layer, name = layer.name): Layer {
  const fresh = () => crypto.randomUUID() as LayerId;
  return layer.kind === 'group'
    ? { ...layer, id: fresh(), name, layers: layer.layers.map((l) => ({ ...l, id: fresh() })) }
    : { ...layer, id: fresh(), name };
}

/** A layer moved up (−) or down (+) in its stack; the same where it would leave it. */
export function movedBy(layers: readonly Layer[], at: number, by: number): Layer[] {
  const next = [...layers];
  if (at + by >= 0 && at + by < layers.length) next.splice(at + by, 0, ...next.splice(at, 1));
  return next;
}
/** A layer's copy below it. */
export const duplicated = (layers: readonly Layer[], at: number): Layer[] => [
  ...layers.slice(0, at + 1),
  copyOf(layers[at]!, `${layers[at]!.name} copy`.slice(0, 120)),
  ...layers.slice(at + 1),
];

/** A layer and the one below it, as one group; a group takes the next layer in. Undefined where that cannot be. */
export function groupedWithNext(layers: readonly Layer[], at: number): Layer[] | undefined {
  const [upper, lower] = [layers[at], layers[at + 1]];
  if (!upper || !lower || lower.kind === 'group') return undefined;
  const group: GroupLayer =
    upper.kind === 'group'
      ? { ...upper, layers: [...upper.layers, lower] }
      : {
          ...base(`Group ${count(layers, 'Group')}`, upper.mode),
          kind: 'group',
          layers: [{ ...upper, mode: 'add' }, lower],
        };
  return [...layers.slice(0, at), group, ...layers.slice(at + 2)];
}

/** A group's layers back in the stack in its place. */
export const ungrouped = (layers: readonly Layer[], at: number): Layer[] => {
  const group = layers[at];
  if (group?.kind !== 'group') return [...layers];
  return [
    ...layers.slice(0, at),
    ...group.layers.map((l, i) => (i === 0 ? { ...l, mode: group.mode } : l)),
    ...layers.slice(at + 1),
  ];
};

function scribbleText({ strokes, carried }: ScribbleLayer): string {
  const of = (sign: Stroke['sign']) => strokes.filter((s) => s.sign === sign).length;
  if (of('in') + of('around') === 0) return 'scribble: draw a stroke over what is in';
  const parts = (['in', 'out', 'unsure', 'around'] as const).filter((s) => of(s) > 0).map((s) => `${of(s)} ${s}`);
  return `scribble, ${parts.join(', ')}${carried ? ', carried' : ''}`;
}

/** What a card says under a layer's name. */
export function describe(layer: Layer): string {
  if (isKey(layer))
    return layer.key
      ? `${KEYS[layer.kind].label}, ${layer.picks.length} ${layer.picks.length === 1 ? 'pick' : 'picks'}`
      : `${KEYS[layer.kind].label}: pick a colour in the picture`;
  if (layer.kind === 'shape') return layer.geometry.form;
  if (layer.kind === 'group') return `group of ${layer.layers.length}`;
  if (layer.kind === 'scribble') return scribbleText(layer);
  if (layer.kind === 'brush')
    return `painted, ${layer.strokes.length} ${layer.strokes.length === 1 ? 'stroke' : 'strokes'}`;
  return layer.mediaId ? `plate matte, ${layer.channel}` : 'plate matte: choose its file';
}
