import type { Encoding, Layer, measureSighting, Oklab, SightingRender } from '@mellow/core';

/** A frame's proxy and how to read it. */
export interface FrameRef {
  url: string;
  encoding: Encoding;
  /** Full-resolution width: the proxy's scale follows from it. */
  fullWidth: number;
}
export type Show = 'Result' | 'Source' | 'Matte' | 'Tint';
export type Task =
  | { kind: 'show'; frame: FrameRef; sightings: SightingRender[]; index: number; show: Show; measure: boolean; /** a smaller picture while a hand moves */ step: 1 | 2 }
  | { kind: 'layer'; frame: FrameRef; layer: Layer; width: number }
  | { kind: 'sample'; frame: FrameRef; x0: number; y0: number; x1: number; y1: number }
  | { kind: 'density'; frame: FrameRef }
  | { kind: 'crop'; frame: FrameRef; sightings: SightingRender[]; index: number };

export interface Picture {
  rgba: Uint8ClampedArray<ArrayBuffer>;
  width: number;
  height: number;
}
export interface ShowAnswer {
  picture: Picture;
  measured: ReturnType<typeof measureSighting>;
}
/** The frame's colours on OKLab's a,b plane: mean sRGB and share of pixels per cell, `size × size`, and a lightness histogram. */
export interface DensityAnswer {
  size: number;
  reach: number;
  rgba: Uint8ClampedArray<ArrayBuffer>;
  lightness: number[];
}
export interface CropAnswer {
  before: Picture;
  after: Picture;
}
export interface AnswerOf {
  show: ShowAnswer;
  layer: Picture;
  sample: { samples: Oklab[] };
  density: DensityAnswer;
  crop: CropAnswer | null;
}
export type Request = { id: number; task: Task };
export type Answer = { id: number; ok: true; answer: AnswerOf[keyof AnswerOf] } | { id: number; ok: false; message: string };
/** OKLCh chroma at the rim of the key field and the swing. */
export const FIELD_REACH = 0.32;
