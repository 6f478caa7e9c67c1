// What the page asks its workers for, and what they answer.
import type {
  LookCurves,
  Balance,
  Carried,
  Cdl,
  ColourDensity,
  Encoding,
  Gain,
  Homography,
  Lab,
  Layer,
  Light,
  MatteMeter,
  Oklab,
  ProbedPixel,
  Program,
  RecipeNumbers,
  Compared,
  SheenBody,
  Shift,
  Scope,
  ScopeKind,
  ScopePart,
  SightingMeasurement,
  SightingRender,
  Stroke,
  TextureFigures,
  Trim,
} from '@mellow/core';

/** A frame's proxy and how to read it. */
export interface FrameRef {
  url: string;
  encoding: Encoding;
  /** Full-resolution width: the proxy's scale follows from it. */
  fullWidth: number;
  /** Has the footage fewer samples of chroma than of luma? Left out: no. */
  sharesChroma?: boolean | undefined;
  balance?: Balance | undefined;
  /** Where the frames of the plates lie that go with this frame, by core's `plateId`. */
  plates: Record<string, string>;
  /** Where the masks lie that selections were carried to on this frame, by core's `carriedId`; left out: none. */
  carried?: Record<string, string> | undefined;
}
/** A frame with the sightings on it, and the frames around it that a steadied matte needs. */
export interface FrameScene {
  frame: FrameRef;
  sightings: SightingRender[];
  /** The sighting in hand; −1: none. */
  index: number;
  around?: { off: number; frame: FrameRef; sightings: SightingRender[] }[] | undefined;
}
/** The overall correction after all recolours, as a worker loads it. */
export interface LookRef {
  cdl?: Cdl | undefined;
  curves?: LookCurves | undefined;
  tableUrl?: string | undefined;
}
export type Show = 'Result' | 'Source' | 'Matte' | 'Tint' | 'Cut-out' | 'Difference';
export interface ShowTask extends FrameScene {
  kind: 'show';
  show: Show;
  /** One layer's own matte instead of the stack's. */
  solo?: Layer | undefined;
  /** 0..1, of the tint. */
  tint: number;
  ground: 'grey' | 'black' | 'white';
  measure: boolean;
  /** A hand is changing something: figures of some of the piece's pixels will do. */
  onTheWay?: boolean | undefined;
  /** Send the source along, for wipe, side by side and blink. */
  withSource: boolean;
  /** What is sent in the source's place: the result of this. */
  against?: FrameScene | undefined;
  /** Sent in its place instead: this layer's own matte. */
  againstLayer?: Layer | undefined;
  /** With a matte: the frames beside it, whose mattes are laid over it. */
  beside?: { before?: FrameScene | undefined; after?: FrameScene | undefined } | undefined;
  /** Marks the pixels near this place of OKLab's a, b plane. */
  near?: { a: number; b: number } | undefined;
  /** A scope of what is shown: of the result, or of the source where that is looked at. */
  scope?: { kind: ScopeKind; part: ScopePart } | undefined;
  /** What picture and comparison are seen through. Measuring, and the scopes, are before it. */
  look?: LookRef | undefined;
  /** The table that the screen shows it through, after the look. */
  viewTableUrl?: string | undefined;
  /** How much brighter the screen shows it; left out: as it is. */
  stops?: number | undefined;
}
type Reads = 'balanced' | 'unbalanced';
interface LayerTask {
  kind: 'layer';
  frame: FrameRef;
  layer: Layer;
  width: number;
}
/** Colours under a rectangle in full-resolution pixels. */
interface SampleTask {
  kind: 'sample';
  frame: FrameRef;
  reads: Reads;
  x0: number;
  y0: number;
  x1: number;
  y1: number;
}
/** What a stroke lies on, after the shot's balance: full-resolution pixels. */
interface LooksTask {
  kind: 'looks';
  frame: FrameRef;
  stroke: Pick<Stroke, 'points' | 'widthPx'>;
}
/** Which parts of strokes, as they lie on the frame, lie on what they were drawn on, after the shot's balance. */
interface HoldingTask {
  kind: 'holding';
  frame: FrameRef;
  strokes: readonly Stroke[];
}
/** The mean colour of some places, full-resolution pixels, each on its own frame, after the shot's balance. */
interface PatchColoursTask {
  kind: 'patch colours';
  patches: { frame: FrameRef; x0: number; y0: number; x1: number; y1: number }[];
}
interface DensityTask {
  kind: 'density';
  frame: FrameRef;
  reads: Reads;
}
/** The whole matte in hand as a small picture. */
interface MatteTask extends FrameScene {
  kind: 'matte';
  width: number;
}
interface MeterTask extends FrameScene {
  kind: 'meter';
}
/** How the matte in hand does over time: against the frame before, and against a track since its reference frame. */
interface OverTimeTask {
  kind: 'over time';
  now: FrameScene;
  before?: FrameScene | undefined;
  track?: { reference: FrameScene; motion: Homography } | undefined;
}
/** What lies at a place (full-resolution pixels) of the picture that is shown. */
interface ProbeTask {
  kind: 'probe';
  x: number;
  y: number;
  task: ShowTask;
}
/** The result as a small picture. */
interface ThumbnailTask extends FrameScene {
  kind: 'thumbnail';
  width: number;
}
/** What is selected, on grey, as a small picture of the matte's surroundings. */
interface CutOutTask extends FrameScene {
  kind: 'cut-out';
  width: number;
  height: number;
}
/** What a layer selects on a frame, carried quickly over those that follow it, or come before it, nearest first. */
interface CarryQuicklyTask {
  kind: 'carry quickly';
  frame: FrameRef;
  layer: Layer;
  following: FrameRef[];
  /** Of a cell, pixels. */
  width: number;
  height: number;
}
/** What was found of a frame, and how sure it is: 0..1, 0 where the piece is out of sight. */
export interface CarriedCell extends CutOutAnswer {
  certainty: number;
}
export interface CutOutAnswer {
  /** Undefined where nothing is selected. */
  picture: Picture | undefined;
  /** Of the picture's area, 0..1. */
  share: number;
}
/** The piece cut out of the frame, before and after. */
export interface CropTask extends FrameScene {
  kind: 'crop';
}
/**
 * How a match is made: by gains, by gains on what is not sheen, by a shift, or by the gains of a trim on top of the
 * recipe.
 */
export type MatchWay = 'gain' | 'repaint' | 'shift' | 'trim';
/** A piece matched over some frames of its shot at once. */
interface MatchTask {
  kind: 'match';
  scenes: FrameScene[];
  way: MatchWay;
  /** Lab (D65) as the piece should be seen in this shot, or what of another is to be carried. */
  wanted: Lab;
  carried: Carried;
  /** What of the piece must become the wanted colour. */
  of: Compared;
  recipe: RecipeNumbers;
  light?: Light | undefined;
  trim?: Trim | undefined;
  /** What tells sheen apart here, where it is known. */
  body?: SheenBody | undefined;
}
/** What the piece can be matched to at one lightness (OKLab). */
interface ReachTask {
  kind: 'reach';
  scenes: FrameScene[];
  lightness: number;
  tolerance: number;
  recipe: RecipeNumbers;
  light?: Light | undefined;
}
/** What a repaint takes for body and for sheen on the frame. */
interface SplitTask extends FrameScene {
  kind: 'split';
  width: number;
}
/** The surface of the piece in hand, before and after. */
interface TextureTask extends FrameScene {
  kind: 'texture';
}
/** A recipe as the text of a look-up table. */
interface RecipeCubeTask {
  kind: 'recipe cube';
  title: string;
  program: Program;
  encoding: Encoding;
  /** Entries along a side. */
  size: number;
  as: 'cube' | 'clf';
}
/** A recipe as the nearest ASC CDL. */
interface RecipeCdlTask {
  kind: 'recipe CDL';
  program: Program;
  encoding: Encoding;
}
/** The mean colour of the piece in the source, over some frames. */
interface SourceColourTask {
  kind: 'source colour';
  scenes: FrameScene[];
}
/** The frames a scene reads are loaded: they are computed next. */
interface LoadTask extends Pick<FrameScene, 'frame' | 'around'> {
  kind: 'load';
}
/** Pictures are shared with the worker at the other end. */
interface MeetTask {
  kind: 'meet';
  port: MessagePort;
}
/** A picture is decoded before anybody needs it. */
interface PrefetchTask {
  kind: 'prefetch';
  url: string;
}
export type Task =
  | LoadTask
  | MeetTask
  | PrefetchTask
  | MatchTask
  | RecipeCubeTask
  | RecipeCdlTask
  | SourceColourTask
  | ReachTask
  | TextureTask
  | SplitTask
  | ShowTask
  | LayerTask
  | SampleTask
  | LooksTask
  | HoldingTask
  | PatchColoursTask
  | DensityTask
  | MeterTask
  | MatteTask
  | OverTimeTask
  | ProbeTask
  | ThumbnailTask
  | CutOutTask
  | CarryQuicklyTask
  | CropTask;

export interface Picture {
  rgba: Uint8ClampedArray<ArrayBuffer>;
  width: number;
  height: number;
}
interface ShowAnswer {
  picture: Picture;
  source: Picture | undefined;
  measured: SightingMeasurement | undefined;
  scope: Scope | undefined;
}
export interface CropAnswer {
  before: Picture;
  after: Picture;
}
interface ThumbnailAnswer {
  picture: Picture;
  /** The piece in hand, measured on it. */
  measured: SightingMeasurement | undefined;
}
/** Chatter 0..1 and slip in pixels of a frame; undefined where they cannot be told. */
export interface OverTimeAnswer {
  chatter: number | undefined;
  slipPx: number | undefined;
}
/** What a match has found; undefined where there is nothing of the piece to go by. */
export interface MatchAnswer {
  gain?: Gain;
  shift?: Shift;
  /** The dye that is kept where a dark piece is made light. */
  dye?: number;
  /** By how much colour is softened so that its grain is not lifted, full-resolution pixels. */
  softenPx?: number;
  /** What tells sheen apart, looked for by a repaint. */
  body?: SheenBody;
  reached: Lab;
  deltaE: number;
}
export interface AnswerOf {
  load: undefined;
  meet: undefined;
  prefetch: { bytes: number };
  show: ShowAnswer;
  layer: Picture;
  sample: { samples: Oklab[] };
  looks: { looks: Oklab[] };
  /** Of each stroke, where its parts lead; null: all of it holds. */
  holding: { parts: (Stroke['points'][] | null)[] };
  'patch colours': { means: [number, number, number][] };
  density: ColourDensity;
  meter: MatteMeter;
  'over time': OverTimeAnswer;
  probe: ProbedPixel | undefined;
  /** `beyond`: what of the recipe a table cannot hold. */
  'recipe CDL': { cdl: Cdl; meanDeltaE: number; worstDeltaE: number; beyond: string[] };
  'recipe cube': { text: string; meanDeltaE: number; worstDeltaE: number; beyond: string[] };
  crop: CropAnswer | undefined;
  'cut-out': CutOutAnswer;
  'carry quickly': { cells: CarriedCell[] };
  matte: Picture;
  thumbnail: ThumbnailAnswer;
  match: MatchAnswer | undefined;
  reach: { outline: { a: number; b: number }[] } | undefined;
  texture: TextureFigures | undefined;
  split: { body: Picture; sheen: Picture } | undefined;
  'source colour': { meanLinear: [number, number, number] } | undefined;
}
