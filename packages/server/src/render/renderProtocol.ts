import type {
  Balance,
  CarriedMask,
  CodePicture,
  Encoding,
  FrameSample,
  Look,
  Program,
  RenderAs,
  SightingMeasurement,
  SightingRender,
} from '@mellow/core';
import type { BoxedMatte } from './boxedMatte.ts';
import type { MattePacking, PicturePacking } from './sinks/packed.ts';

/** What a matte that is steadied needs of a frame near the one rendered. */
export interface AroundTask {
  codes: CodePicture;
  /** The same frame as the viewer has it, where any stack has strokes. */
  seen?: CodePicture | undefined;
  sightings: readonly SightingRender[];
  plates: Record<string, Float32Array>;
  carried: Record<string, CarriedMask>;
}
export interface FrameTask {
  codes: CodePicture;
  /** The same frame as the viewer has it, where any stack has strokes. */
  seen?: CodePicture | undefined;
  encoding: Encoding;
  /** This size over the full resolution. */
  scale: number;
  sightings: readonly SightingRender[];
  balance?: Balance | undefined;
  /** Has the footage fewer samples of chroma than of luma? Left out: no. */
  sharesChroma?: boolean | undefined;
  /** α of the plates on this frame, by core's `plateId`. */
  plates: Record<string, Float32Array>;
  /** What selections were carried to on this frame, by core's `carriedId`. */
  carried: Record<string, CarriedMask>;
  /** The frames around, by how many frames they lie off; only those that a steadied matte asks for. */
  around?: { off: number; frame: AroundTask }[] | undefined;
}
/** A frame rendered in several colourways at once: one decode, one matte, a recolour each. */
export interface RenderTask extends FrameTask {
  /** Per colourway the sightings as they are in it: none, or as many as there are, of the same mattes. */
  colourways: readonly (readonly SightingRender[])[];
  /** What is made of a rendered picture. */
  packing: PicturePacking;
  /** What the rendered codes are; left out: as those of the source. */
  as?: RenderAs | undefined;
  /** What any sighting selects is wanted too. */
  withAlpha?: boolean | undefined;
  /** What the result is seen through; left out: nothing. */
  look?: Look | undefined;
}
export interface MatteTask extends FrameTask {
  /** What is made of the mattes. */
  packing: MattePacking;
}
/** A frame measured in several colourways at once: one decode, one matte, a recolour each. */
export interface MeasureTask extends FrameTask {
  /** Which of the sightings is measured. */
  index: number;
  /** What becomes of the colour of each sighting, per colourway. */
  colourways: readonly (readonly Program[])[];
  /** α of the sightings as far as it is known: the others are made. */
  mattes: readonly (BoxedMatte | undefined)[];
}
export interface Measured {
  /** Per colourway; undefined where nothing is selected. */
  colourways: (SightingMeasurement | undefined)[];
  /** The mattes that were made for it; of those that were known undefined. */
  mattes: (BoxedMatte | undefined)[];
  /** With which it can be measured again; undefined where it takes more than that. */
  sample: FrameSample | undefined;
}
/** Frames of a shot measured once more, by what was kept of each. */
export interface AgainTask extends Pick<FrameTask, 'encoding' | 'balance'> {
  frames: readonly {
    sample: FrameSample;
    /** What becomes of the piece's colour, per colourway. */
    programs: readonly Program[];
  }[];
}
export type Request =
  | ({ kind: 'render' } & RenderTask)
  | ({ kind: 'mattes' } & MatteTask)
  | ({ kind: 'measure' } & MeasureTask)
  | ({ kind: 'measure again' } & AgainTask)
  | { kind: 'hash of TIFF'; file: Uint8Array };
