import type {
  Balance,
  Encoding,
  Homography,
  Layer,
  MatteMeter,
  measureSighting,
  Oklab,
  SightingRender,
} from '@mellow/core';

/** A frame's proxy and how to read it. */
export interface FrameRef {
  url: string;
  encoding: Encoding;
  /** Full-resolution width: the proxy's scale follows from it. */
  fullWidth: number;
  balance?: Balance | undefined;
  /** Where the frames of the plates lie that go with this frame, by core's `plateKey`. */
  plates: Record<string, string>;
}
/** The sightings of a shot on a frame, with the frames around it that a steadied matte needs. */
export interface Moment {
  frame: FrameRef;
  sightings: SightingRender[];
  /** The sighting in hand; −1: none. */
  index: number;
  around?: { off: number; frame: FrameRef; sightings: SightingRender[] }[] | undefined;
}
export type Show = 'Result' | 'Source' | 'Matte' | 'Tint' | 'Cut-out' | 'Difference';
export interface ShowTask extends Moment {
  kind: 'show';
  show: Show;
  /** One layer's own matte instead of the stack's. */
  solo?: Layer | undefined;
  /** 0..1, of the tint. */
  tint: number;
  ground: 'grey' | 'black' | 'white';
  measure: boolean;
  /** Send the source along, for wipe, side by side and blink. */
  withSource: boolean;
  /** Marks the pixels near this place of OKLab's a, b plane. */
  near?: { a: number; b: number } | undefined;
  /** A smaller picture while a hand moves. */
  step: 1 | 2;
}
export type Task =
  | ShowTask
  | { kind: 'layer'; frame: FrameRef; layer: Layer; width: number }
  | {
      kind: 'sample';
      frame: FrameRef;
      reads: 'balanced' | 'unbalanced';
      x0: number;
      y0: number;
      x1: number;
      y1: number;
    }
  | { kind: 'density'; frame: FrameRef; reads: 'balanced' | 'unbalanced' }
  | ({ kind: 'meter' } & Moment)
  /** How the matte in hand holds over time: against the frame before, and against a track since its reference frame. */
  | {
      kind: 'hold';
      now: Moment;
      before?: Moment | undefined;
      track?: { reference: Moment; motion: Homography } | undefined;
    }
  /** What lies at a place (full-resolution pixels) of the picture that is shown. */
  | { kind: 'probe'; x: number; y: number; task: ShowTask }
  | ({ kind: 'crop' } & Moment);

export interface Picture {
  rgba: Uint8ClampedArray<ArrayBuffer>;
  width: number;
  height: number;
}
export interface ShowAnswer {
  picture: Picture;
  source: Picture | undefined;
  measured: ReturnType<typeof measureSighting>;
}
/** The frame's colours on OKLab's a,b plane: mean sRGB and share of pixels per cell, `size × size`, and histograms of lightness and of encoded R, G, B and luma. */
export interface DensityAnswer {
  size: number;
  reach: number;
  rgba: Uint8ClampedArray<ArrayBuffer>;
  lightness: number[];
  encoded: { red: number[]; green: number[]; blue: number[]; luma: number[] };
}
export interface CropAnswer {
  before: Picture;
  after: Picture;
}
/** One pixel: code values (of the proxy, 0..255), linear light and Lab, in the source and in the result, and α. */
export interface ProbeAnswer {
  before: {
    codes: [number, number, number];
    linear: [number, number, number];
    lab: { L: number; a: number; b: number };
  };
  after:
    | { codes: [number, number, number]; linear: [number, number, number]; lab: { L: number; a: number; b: number } }
    | undefined;
  alpha: number | undefined;
  oklab: Oklab;
}
/** Chatter 0..1 and drift in pixels of a frame; undefined where they cannot be told. */
export interface HoldAnswer {
  chatter: number | undefined;
  driftPx: number | undefined;
}
export interface AnswerOf {
  show: ShowAnswer;
  layer: Picture;
  sample: { samples: Oklab[] };
  density: DensityAnswer;
  meter: MatteMeter;
  hold: HoldAnswer;
  probe: ProbeAnswer | null;
  crop: CropAnswer | null;
}
export type Request = { id: number; task: Task };
export type Answer =
  { id: number; ok: true; answer: AnswerOf[keyof AnswerOf] } | { id: number; ok: false; message: string };
/** OKLCh chroma at the rim of the key field and the swing. */
export const FIELD_REACH = 0.32;
