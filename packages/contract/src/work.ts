import { z } from 'zod';
import { Lab, Sha256 } from './entities.ts';
import { ColourwayId, DeliveryId, JobId, ProjectId, ShotId, SightingId } from './ids.ts';

export const JobState = z.enum(['queued', 'running', 'done', 'failed', 'cancelled']);
export type JobState = z.infer<typeof JobState>;
/** Something long that the server does: proxies of a shot, rendering a delivery, tracking, carrying a selection. */
export const Job = z.object({
  id: JobId,
  projectId: ProjectId.nullable(),
  kind: z.enum(['proxy', 'render', 'track', 'carry']),
  /** What the job is about: the id of the media, the delivery, the track or the layer. */
  subject: z.string(),
  title: z.string(),
  state: JobState,
  done: z.number().int().min(0),
  total: z.number().int().min(0),
  message: z.string().nullable(),
  createdAt: z.iso.datetime(),
  startedAt: z.iso.datetime().nullable(),
  finishedAt: z.iso.datetime().nullable(),
  /** Counts its changes: of two that are told of it, the one with more is the later. */
  revision: z.number().int().positive(),
});
export type Job = z.infer<typeof Job>;

const Lch = z.object({ L: z.number(), C: z.number(), hDeg: z.number() });
/** The measured colour of a piece on a frame; see core/measure/measurePiece. */
export const Measurement = z.object({
  pixels: z.number().int().positive(),
  clippedShare: z.number().min(0).max(1),
  meanLinear: z.tuple([z.number(), z.number(), z.number()]),
  lab: z.object({ L: z.number(), a: z.number(), b: z.number() }),
  body: z.tuple([z.number(), z.number(), z.number()]).optional(),
  median: Lch,
  p10: Lch,
  p90: Lch,
  covariance: z.tuple([z.number(), z.number(), z.number(), z.number(), z.number(), z.number()]),
});
export type Measurement = z.infer<typeof Measurement>;
export const FrameMeasurement = z.object({
  frame: z.number().int().min(0),
  before: Measurement,
  after: Measurement,
  /** How much of what looks like the piece is selected, 0..1; see core/measure/coverage. */
  coverage: z.number().min(0).max(1),
});
export type FrameMeasurement = z.infer<typeof FrameMeasurement>;
const Colour = z.object({
  lab: Lab.or(z.object({ L: z.number(), a: z.number(), b: z.number() })),
  meanLinear: z.tuple([z.number(), z.number(), z.number()]),
  /** The same without sheen, where it is told apart. */
  body: z.tuple([z.number(), z.number(), z.number()]).optional(),
});
/**
 * All measured frames of a sighting in a colourway. `fresh` is false while its matte, recipe or shot has changed since.
 */
export const SightingMeasurements = z.object({
  sightingId: SightingId,
  colourwayId: ColourwayId,
  fresh: z.boolean(),
  /** Frames where the matte selects nothing that can be measured are not listed. */
  frames: z.array(
    z.object({
      frame: z.number().int().min(0),
      before: Colour,
      after: Colour,
      pixels: z.number().int(),
      coverage: z.number(),
      /** Share of the measured pixels that are clipped in the source, and of those that the recolour has clipped. */
      clippedShare: z.number(),
      resultClippedShare: z.number(),
    }),
  ),
  measuredFrames: z.number().int(),
});
export type SightingMeasurements = z.infer<typeof SightingMeasurements>;

const PRESET_NAMES = [
  'png16',
  'tiff16',
  'png16Alpha',
  'tiff16Alpha',
  'tiffFloat',
  'dpx10',
  'dpx12',
  'dpx16',
  'exrHalf',
  'exrFloat',
  'exrHalfAlpha',
  'exrFloatAlpha',
  'ffv1',
  'jpeg2000',
  'vc3',
  'h264',
  'av1',
  'mattePng16',
  'matteExr',
] as const;
/** What is written; `PRESETS` says what each is. */
export const Preset = z.enum(PRESET_NAMES);
export type Preset = z.infer<typeof Preset>;

/** Small pictures that are kept of a render. */
const MOST_STILLS = 5;
/** The frames small pictures of a render are kept of: evenly over the shot, half a step from its ends. */
export function stillFrames(frames: number): number[] {
  const count = Math.min(MOST_STILLS, frames);
  return Array.from({ length: count }, (_, i) => Math.floor(((i + 0.5) * frames) / count));
}

/** What reading a rendered file back has found. A file that is not what was rendered is not kept. */
export const ReadBack = z.object({
  frames: z.number().int().min(0),
  /** Every sample of every frame is what was rendered; false: the format rounds, and frames were counted. */
  isExact: z.boolean(),
  /** Of a single file's bytes; null: several files. */
  sha256: Sha256.nullable(),
});
export type ReadBack = z.infer<typeof ReadBack>;
export const Delivery = z.object({
  id: DeliveryId,
  projectId: ProjectId,
  shotId: ShotId.nullable(),
  shotName: z.string(),
  colourwayName: z.string(),
  preset: Preset,
  job: Job,
  fileName: z.string(),
  bytes: z.number().nullable(),
  readBack: ReadBack.nullable(),
  /** Where it lies in the server's render folder; null: it was not put there. */
  placed: z.string().nullable(),
});
export type Delivery = z.infer<typeof Delivery>;
