// The layers of a matte stack, as they are stored and edited.
import type { Oklab } from '../colour/oklab.ts';
import type { Animated, Keyframe } from './animation.ts';
import type { CarriedFrom, CarryRun } from './carried.ts';
import type { CleanUp } from './cleaning.ts';
import type { Geometry, Placement, ShapeMatte } from './geometry.ts';
import type { KeyByKind, KeyKind, KeyReads, PickedRegion } from './key.ts';
import type { Follow } from './motion.ts';

/** How a layer joins what lies above it: union, intersection, subtraction. */
export type LayerMode = 'add' | 'within' | 'without';

/** What every layer has. */
export interface LayerCommon {
  id: string;
  name: string;
  on: boolean;
  mode: LayerMode;
  invert: boolean;
  /** 0 = the layer has no effect in any mode, 1 = full. */
  strength: number;
  /** A locked layer is not changed by the hand on the picture nor by its controls. */
  locked?: boolean | undefined;
  /** Left out: none. */
  cleanUp?: CleanUp | undefined;
  /** Keyframes of its numbers, by dotted name. */
  animated?: Animated | undefined;
  /** The frames it is there on, both included; left out: all. */
  span?: { from: number; to: number } | undefined;
}

/** A layer made from the picture's colours. Without picks it has no windows yet and takes no part in the stack. */
export interface KeyLayerOf<K extends KeyKind> extends LayerCommon {
  kind: K;
  key: KeyByKind[K] | null;
  /** What it was made from; their places ride on a followed track, so that they can be taken anew on any frame. */
  picks: PickedRegion[];
  follow?: Follow | undefined;
  reads?: KeyReads | undefined;
}
export type RangeLayer = KeyLayerOf<'range'>;
export type RgbLayer = KeyLayerOf<'rgb'>;
export type LumaLayer = KeyLayerOf<'luma'>;
export type SampleLayer = KeyLayerOf<'sample'>;
export type KeyLayer = { [K in KeyKind]: KeyLayerOf<K> }[KeyKind];

/**
 * `geometry` is the path without keyframes; `paths` its keyframes. Placement and followed track are laid on top, in
 * that order.
 */
export interface ShapeLayer extends LayerCommon, ShapeMatte {
  kind: 'shape';
  paths?: Keyframe<Geometry>[] | undefined;
  placement?: Placement | undefined;
  follow?: Follow | undefined;
}

/** A matte made elsewhere: frame f of the shot takes frame f + `offsetFrames` of the media. */
export interface PlateLayer extends LayerCommon {
  kind: 'plate';
  mediaId: string | null;
  channel: 'luma' | 'alpha';
  offsetFrames: number;
}

/**
 * A stroke drawn over the picture: what lies under it is in the selection, or out of it, or is in partly (`unsure`:
 * hair, smoke, glass), or it goes round what is looked for (`around`: all beyond it is out). Full-resolution pixels.
 */
export interface Stroke {
  sign: 'in' | 'out' | 'unsure' | 'around';
  widthPx: number;
  points: [x: number, y: number][];
  /** Of one that takes in: how far what it lies on is taken along, OKLab differences passed on the way. */
  reach?: number | undefined;
  /** Its own track instead of the layer's; null: it stays where it was drawn. */
  follow?: Follow | null | undefined;
  /** The frame it was drawn on; of a selection that is carried it stays there. */
  frame?: number | undefined;
  /** The colours it was drawn on, spread evenly along it: see scribble/looks. Left out: it counts on every frame. */
  looks?: Oklab[] | undefined;
}

/**
 * What a few strokes select: see scribble/selection. The strokes ride on a followed track; or what they select on the
 * frames they were drawn on is carried to the others (`carried`: the passes in the order they were made; see carry/).
 */
export interface ScribbleLayer extends LayerCommon {
  kind: 'scribble';
  strokes: Stroke[];
  /** How soft the outline is, full-resolution pixels from out to in; 0: hard; left out: as the picture's own edge. */
  softPx?: number | undefined;
  follow?: Follow | undefined;
  carried?: CarryRun[] | undefined;
  /** Of a carried selection on one frame: what was found there; see animate/layerAt. Stored with stills alone. */
  from?: CarriedFrom[] | undefined;
}

/** A place a brush has passed, full-resolution pixels, and how hard it was pressed there, 0..1. */
export type BrushPoint = [x: number, y: number, pressure: number];
/** One passage of a round brush. */
export interface BrushStroke {
  /** Selects, takes away, or smooths what is painted there. */
  sign: 'in' | 'out' | 'smooth';
  /** Its diameter where it is pressed fully, full-resolution pixels. */
  widthPx: number;
  /** The share of its radius over which its edge falls off, 0..1. */
  softness: number;
  /** How much of its effect one passage has, 0..1. */
  flow: number;
  points: BrushPoint[];
  /** The frames it is there on, both included; left out: all. */
  span?: { from: number; to: number } | undefined;
}

/** What was painted by hand: see brush/brushMatte. The strokes ride on a followed track. */
export interface BrushLayer extends LayerCommon {
  kind: 'brush';
  strokes: BrushStroke[];
  follow?: Follow | undefined;
}

export type SingleLayer = KeyLayer | ShapeLayer | PlateLayer | ScribbleLayer | BrushLayer;

/** Layers combined with one another before they join the rest as one. Groups do not nest. */
export interface GroupLayer extends LayerCommon {
  kind: 'group';
  layers: SingleLayer[];
}

export type Layer = SingleLayer | GroupLayer;
export type LayerKind = Layer['kind'];
export type LayerOf<K extends LayerKind> = Extract<Layer, { kind: K }>;
