import { z } from 'zod';
import { Animated, FrameNumber, keyframesOf } from './animation.ts';
import { LayerId, RunId, TrackId } from './ids.ts';

const unit = z.number().min(0).max(1);
const px = z.number().min(-100_000).max(100_000);

/** A core [lo, hi] with a soft margin on either side; see core/key/window. */
export const Window = z
  .object({ on: z.boolean(), lo: z.number(), hi: z.number(), softLo: z.number().min(0), softHi: z.number().min(0) })
  .refine((w) => w.hi >= w.lo, { message: 'hi must not be below lo', path: ['hi'] });
export type Window = z.infer<typeof Window>;

/** Windows on OKLCh hue (degrees), chroma and lightness. */
export const RangeKey = z.object({ hue: Window, chroma: Window, lightness: Window });
export type RangeKey = z.infer<typeof RangeKey>;

export const OklabSample = z.object({ L: z.number(), a: z.number(), b: z.number() });
/**
 * Where colours were taken from the picture, and which, so that a key can be solved again. Rectangle in picture pixels.
 */
export const PickedRegion = z.object({
  sign: z.enum(['add', 'remove']),
  frame: z.number().int().min(0),
  x0: px,
  y0: px,
  x1: px,
  y1: px,
  samples: z.array(OklabSample).min(1).max(64),
});
export type PickedRegion = z.infer<typeof PickedRegion>;

export const PathPoint = z.object({
  x: px,
  y: px,
  inX: px,
  inY: px,
  outX: px,
  outY: px,
  feather: z.number().min(0).max(100).optional(),
});
export type PathPoint = z.infer<typeof PathPoint>;
const placed = {
  cx: px,
  cy: px,
  width: z.number().min(0).max(100_000),
  height: z.number().min(0).max(100_000),
  turnDeg: z.number(),
};
export const Geometry = z.discriminatedUnion('form', [
  z.object({ form: z.literal('rectangle'), ...placed }),
  z.object({ form: z.literal('ellipse'), ...placed }),
  z.object({ form: z.literal('spline'), points: z.array(PathPoint).min(3).max(2000) }),
  z.object({ form: z.literal('gradient'), x0: px, y0: px, x1: px, y1: px }),
]);
export type Geometry = z.infer<typeof Geometry>;

/** A rigid change of a shape as a whole; see core/shape/placement. */
export const Placement = z.object({
  pivotX: px,
  pivotY: px,
  moveX: px,
  moveY: px,
  turnDeg: z.number().min(-36_000).max(36_000),
  scaleX: z.number().min(0.001).max(1000),
  scaleY: z.number().min(0.001).max(1000),
  shearDeg: z.number().min(-89).max(89),
  perspectiveX: z.number().min(-100).max(100),
  perspectiveY: z.number().min(-100).max(100),
});
export type Placement = z.infer<typeof Placement>;
/** What a track may do, or which parts of its motion a follower takes; see core/track/motionModel. */
export const Freedom = z.object({
  move: z.boolean(),
  turn: z.boolean(),
  scale: z.boolean(),
  shear: z.boolean(),
  perspective: z.boolean(),
  flex: z.boolean().optional(),
});
export type Freedom = z.infer<typeof Freedom>;
export const Follow = Freedom.extend({ trackId: TrackId });
export type Follow = z.infer<typeof Follow>;
/** Keyframes of a whole path: all of one form, splines of as many points. */
export const PathKeyframes = keyframesOf(Geometry).refine(
  (keys) =>
    keys.every(
      ({ value }) =>
        value.form === keys[0]!.value.form &&
        (value.form !== 'spline' || value.points.length === (keys[0]!.value as { points: unknown[] }).points.length),
    ),
  {
    message: 'all keyframes of a path must have the same form and as many points',
  },
);
export type PathKeyframes = z.infer<typeof PathKeyframes>;
export const Feather = z.object({
  innerPx: z.number().min(0).max(2000),
  outerPx: z.number().min(0).max(2000),
  falloff: z.enum(['linear', 'smooth']),
});
export type Feather = z.infer<typeof Feather>;

const areaPx = z.number().min(0).max(10_000_000);
/** What is done to a matte; see core/matte/cleanUp. Lengths and areas in full-resolution pixels. */
export const CleanUp = z
  .object({
    quietPx: z.number().min(0).max(200),
    floor: unit,
    ceiling: unit,
    islandsPx: areaPx,
    holesPx: areaPx,
    edgePx: z.number().min(-500).max(500),
    softenPx: z.number().min(0).max(500),
    softenBias: z.number().min(-1).max(1),
    fitEdge: z.number().min(0).max(0.3).default(0),
  })
  .refine((c) => c.ceiling > c.floor, { message: 'the ceiling must lie above the floor', path: ['ceiling'] });
export type CleanUp = z.infer<typeof CleanUp>;

const SpillNow = z.object({
  mode: z.enum(['off', 'remove', 'bounce']),
  reachPx: z.number().min(0).max(1000),
  amount: unit,
  tolerance: z.number().min(0.001).max(0.4),
  within: z.object({ geometry: Geometry, feather: Feather, follow: Follow.optional() }).optional(),
  /** It once stood at “follow”, which is no longer offered. */
  retired: z.literal(true).optional(),
});
/** What *follow* was is off: it came out worse than nothing in 13 of 13 true re-renders. */
const withoutFollow = (value: unknown): unknown =>
  typeof value === 'object' && value !== null && 'mode' in value && value.mode === 'follow'
    ? { ...value, mode: 'off', retired: true }
    : value;
/** Colour of the piece outside its matte; see core/matte/spill and core/recolour/bounceInto. */
export const Spill = z.preprocess(withoutFollow, SpillNow);
export type Spill = z.infer<typeof Spill>;

const common = {
  id: LayerId,
  name: z.string().min(1).max(120),
  on: z.boolean(),
  mode: z.enum(['add', 'within', 'without']),
  invert: z.boolean(),
  strength: unit,
  /** A locked layer is not changed by the hand on the picture nor by its controls. */
  locked: z.boolean().optional(),
  cleanUp: CleanUp.optional(),
  animated: Animated.optional(),
  /** The frames it is there on, both included. */
  span: z.object({ from: FrameNumber, to: FrameNumber }).optional(),
};
const triple = z.tuple([z.number(), z.number(), z.number()]);
/** A 3×3 matrix, row by row. */
export const NineNumbers = z.tuple([...triple.def.items, ...triple.def.items, ...triple.def.items]);
const Ellipsoid = z.object({ mean: triple, precision: NineNumbers });

/** What each kind of key is made of; see core/key. Adding one is its line here. */
export const KEYS = {
  range: RangeKey,
  rgb: z.object({ red: Window, green: Window, blue: Window }),
  luma: z.object({ of: z.enum(['luma', 'lightness']), luma: Window }),
  sample: z.object({
    positive: z.array(Ellipsoid).max(200),
    negative: z.array(Ellipsoid).max(200),
    tolerance: z.number().min(0).max(20),
    softness: z.number().min(0).max(20),
  }),
} as const;
export type KeyKind = keyof typeof KEYS;

/** `follow`: the picks' places ride on a track, so that they can be taken anew on any frame. */
const keyLayer = <K extends KeyKind>(kind: K) =>
  z.object({
    ...common,
    kind: z.literal(kind),
    key: z.nullable(KEYS[kind]),
    picks: z.array(PickedRegion).max(200),
    follow: Follow.optional(),
    reads: z.enum(['balanced', 'unbalanced']).optional(),
  });
type KeyLayers = { [K in KeyKind]: ReturnType<typeof keyLayer<K>> };
const KEY_LAYERS = Object.fromEntries(
  (Object.keys(KEYS) as KeyKind[]).map((kind) => [kind, keyLayer(kind)]),
) as unknown as KeyLayers;
export type KeyLayerOf<K extends KeyKind> = z.infer<KeyLayers[K]>;
export type RangeLayer = KeyLayerOf<'range'>;
export type RgbLayer = KeyLayerOf<'rgb'>;
export type LumaLayer = KeyLayerOf<'luma'>;
export type SampleLayer = KeyLayerOf<'sample'>;
export type KeyLayer = { [K in KeyKind]: KeyLayerOf<K> }[KeyKind];
export const ShapeLayer = z.object({
  ...common,
  kind: z.literal('shape'),
  geometry: Geometry,
  paths: PathKeyframes.optional(),
  placement: Placement.optional(),
  follow: Follow.optional(),
  feather: Feather,
});
export type ShapeLayer = z.infer<typeof ShapeLayer>;
/** A matte made elsewhere. Frame f of the shot takes frame f + offset of the media. */
export const PlateLayer = z.object({
  ...common,
  kind: z.literal('plate'),
  mediaId: z.uuid().nullable(),
  channel: z.enum(['luma', 'alpha']),
  offsetFrames: z.number().int().min(-1_000_000).max(1_000_000),
});
export type PlateLayer = z.infer<typeof PlateLayer>;
/** A stroke drawn over the picture; full-resolution pixels, of the track's own frame where the layer follows one. */
export const Stroke = z.object({
  sign: z.enum(['in', 'out', 'unsure', 'around']),
  widthPx: z.number().min(0.1).max(2000),
  points: z
    .array(z.tuple([px, px]))
    .min(1)
    .max(2000),
  frame: FrameNumber.optional(),
  reach: z.number().min(0).max(2).optional(),
  follow: Follow.nullable().optional(),
  looks: z.array(OklabSample).min(1).max(64).optional(),
});
export type Stroke = z.infer<typeof Stroke>;
/**
 * One pass that carried a selection from a frame with strokes to another (backward when `to` lies before `from`). Its
 * frames are stored apart. `found`: how sure each was when the layer was copied for a render.
 */
export const CarryRun = z.object({
  id: RunId,
  from: FrameNumber,
  to: FrameNumber,
  strokes: z.string().max(16),
  found: z.array(unit).optional(),
});
export type CarryRun = z.infer<typeof CarryRun>;
/** Of a still: what had been found on its frame by a pass, and how much of it counts. */
export const CarriedFrom = z.object({ runId: RunId, frame: FrameNumber, weight: unit });
export type CarriedFrom = z.infer<typeof CarriedFrom>;
/** What a few strokes select; see core/scribble, and core/carry for selections that are carried. */
export const ScribbleLayer = z.object({
  ...common,
  kind: z.literal('scribble'),
  strokes: z.array(Stroke).max(200),
  softPx: z.number().min(0).max(200).optional(),
  follow: Follow.optional(),
  carried: z.array(CarryRun).max(2000).optional(),
  from: z.array(CarriedFrom).max(2).optional(),
});
export type ScribbleLayer = z.infer<typeof ScribbleLayer>;
/** One passage of a round brush; full-resolution pixels, of the track's own frame where the layer follows one. */
export const BrushStroke = z.object({
  sign: z.enum(['in', 'out', 'smooth']),
  widthPx: z.number().min(0.1).max(2000),
  softness: unit,
  flow: unit,
  points: z
    .array(z.tuple([px, px, unit]))
    .min(1)
    .max(2000),
  span: z.object({ from: FrameNumber, to: FrameNumber }).optional(),
});
export type BrushStroke = z.infer<typeof BrushStroke>;
/** What was painted by hand; see core/brush. */
export const BrushLayer = z.object({
  ...common,
  kind: z.literal('brush'),
  strokes: z.array(BrushStroke).max(500),
  follow: Follow.optional(),
});
export type BrushLayer = z.infer<typeof BrushLayer>;
/** Every kind of layer that is no group: adding one is its schema and its line here. */
export const SINGLE_LAYERS = {
  ...KEY_LAYERS,
  shape: ShapeLayer,
  plate: PlateLayer,
  scribble: ScribbleLayer,
  brush: BrushLayer,
} as const;
type Options<T extends Record<string, z.ZodType>> = readonly [T[keyof T], ...T[keyof T][]];
const single = Object.values(SINGLE_LAYERS) as unknown as Options<typeof SINGLE_LAYERS>;
export const SingleLayer = z.discriminatedUnion('kind', single);
export type SingleLayer = z.infer<typeof SingleLayer>;
/** Layers combined with one another before they join the rest. Groups do not nest. */
export const GroupLayer = z.object({ ...common, kind: z.literal('group'), layers: z.array(SingleLayer).max(50) });
export type GroupLayer = z.infer<typeof GroupLayer>;
export const LAYERS = { ...SINGLE_LAYERS, group: GroupLayer } as const;
const all = Object.values(LAYERS) as unknown as Options<typeof LAYERS>;
/** A layer of a matte stack, top first. */
export const Layer = z.discriminatedUnion('kind', all);
export type Layer = z.infer<typeof Layer>;
