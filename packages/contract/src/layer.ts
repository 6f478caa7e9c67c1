import { z } from 'zod';
import { LayerId } from './ids.ts';

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
/** Where colours were taken from the picture, and which, so that a key can be solved again. Rectangle in picture pixels. */
export const Pick = z.object({
  sign: z.enum(['add', 'remove']),
  frame: z.number().int().min(0),
  x0: px,
  y0: px,
  x1: px,
  y1: px,
  samples: z.array(OklabSample).min(1).max(64),
});
export type Pick = z.infer<typeof Pick>;

export const PathPoint = z.object({ x: px, y: px, inX: px, inY: px, outX: px, outY: px });
export type PathPoint = z.infer<typeof PathPoint>;
const placed = { cx: px, cy: px, width: z.number().min(0).max(100_000), height: z.number().min(0).max(100_000), turnDeg: z.number() };
export const Geometry = z.discriminatedUnion('form', [
  z.object({ form: z.literal('rectangle'), ...placed }),
  z.object({ form: z.literal('ellipse'), ...placed }),
  z.object({ form: z.literal('spline'), points: z.array(PathPoint).min(3).max(2000) }),
]);
export type Geometry = z.infer<typeof Geometry>;
export const Feather = z.object({ innerPx: z.number().min(0).max(2000), outerPx: z.number().min(0).max(2000), falloff: z.enum(['linear', 'smooth']) });
export type Feather = z.infer<typeof Feather>;

const common = {
  id: LayerId,
  name: z.string().min(1).max(120),
  on: z.boolean(),
  mode: z.enum(['add', 'within', 'without']),
  invert: z.boolean(),
  strength: unit,
};
export const KeyLayer = z.object({ ...common, kind: z.literal('range'), key: RangeKey.nullable(), picks: z.array(Pick).max(200) });
export type KeyLayer = z.infer<typeof KeyLayer>;
export const ShapeLayer = z.object({ ...common, kind: z.literal('shape'), geometry: Geometry, feather: Feather });
export type ShapeLayer = z.infer<typeof ShapeLayer>;
/** A layer of a matte stack, top first. */
export const Layer = z.discriminatedUnion('kind', [KeyLayer, ShapeLayer]);
export type Layer = z.infer<typeof Layer>;
