import { z } from 'zod';
import { Lab, Sha256 } from './entities.ts';
import { ColourwayId, DeliveryId, JobId, ProjectId, ShotId, SightingId } from './ids.ts';

export const JobState = z.enum(['queued', 'running', 'done', 'failed', 'cancelled']);
export type JobState = z.infer<typeof JobState>;
/** Something long that the server does: proxies of a shot, rendering a delivery, tracking. */
export const Job = z.object({
  id: JobId,
  projectId: ProjectId.nullable(),
  kind: z.enum(['proxy', 'render', 'track']),
  /** What the job is about: the id of the media, the delivery or the track. */
  subject: z.string(),
  title: z.string(),
  state: JobState,
  done: z.number().int().min(0),
  total: z.number().int().min(0),
  message: z.string().nullable(),
  createdAt: z.iso.datetime(),
  startedAt: z.iso.datetime().nullable(),
  finishedAt: z.iso.datetime().nullable(),
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

/** What presets are for, in the order they are offered. */
export const PRESET_GROUPS = ['One file a frame', 'One file a shot', 'For review', 'Mattes'] as const;
interface PresetWords {
  group: (typeof PRESET_GROUPS)[number];
  label: string;
  detail: string;
  extension: string;
  /** The smallest picture that it takes. */
  least?: { width: number; height: number };
}
/** What is written: every preset states all it does. */
export const PRESETS = {
  png16: {
    group: 'One file a frame',
    label: 'PNG sequence, 16 bit RGB',
    detail: 'One lossless PNG a frame, the shot’s own encoding, downloaded as a zip.',
    extension: 'zip',
  },
  tiff16: {
    group: 'One file a frame',
    label: 'TIFF sequence, 16 bit RGB',
    detail: 'One lossless TIFF a frame, the shot’s own encoding, downloaded as a zip.',
    extension: 'zip',
  },
  png16Alpha: {
    group: 'One file a frame',
    label: 'PNG sequence, 16 bit RGBA',
    detail: 'As the PNG sequence, with what any piece selects as alpha; colour is not multiplied by it.',
    extension: 'zip',
  },
  tiff16Alpha: {
    group: 'One file a frame',
    label: 'TIFF sequence, 16 bit RGBA',
    detail: 'As the TIFF sequence, with what any piece selects as alpha; colour is not multiplied by it.',
    extension: 'zip',
  },
  tiffFloat: {
    group: 'One file a frame',
    label: 'TIFF sequence, float RGB',
    detail:
      'One TIFF a frame of 32-bit floats, the shot’s own encoding, values past 0 and 1 kept, downloaded as a zip.',
    extension: 'zip',
  },
  dpx10: {
    group: 'One file a frame',
    label: 'DPX sequence, 10 bit RGB',
    detail: 'One DPX a frame, the shot’s own encoding, rounded to 10 bits, downloaded as a zip.',
    extension: 'zip',
  },
  dpx12: {
    group: 'One file a frame',
    label: 'DPX sequence, 12 bit RGB',
    detail: 'One DPX a frame, the shot’s own encoding, rounded to 12 bits, downloaded as a zip.',
    extension: 'zip',
  },
  dpx16: {
    group: 'One file a frame',
    label: 'DPX sequence, 16 bit RGB',
    detail: 'One DPX a frame, the shot’s own encoding, downloaded as a zip.',
    extension: 'zip',
  },
  exrHalf: {
    group: 'One file a frame',
    label: 'OpenEXR sequence, half float',
    detail: 'Linear light, BT.709 primaries, values past 0 and 1 kept, ZIP, downloaded as a zip.',
    extension: 'zip',
  },
  exrFloat: {
    group: 'One file a frame',
    label: 'OpenEXR sequence, float',
    detail: 'Linear light, BT.709 primaries, values past 0 and 1 kept, ZIP, downloaded as a zip.',
    extension: 'zip',
  },
  ffv1: {
    group: 'One file a shot',
    label: 'FFV1 in Matroska, 16 bit RGB',
    detail: 'One lossless file, the shot’s own encoding; its sound as PCM, 24 bits.',
    extension: 'mkv',
  },
  jpeg2000: {
    group: 'One file a shot',
    label: 'JPEG 2000 in Matroska, 16 bit RGB',
    detail: 'One lossless file, every frame by itself, the shot’s own encoding; its sound as PCM, 24 bits.',
    extension: 'mkv',
  },
  vc3: {
    group: 'One file a shot',
    label: 'VC-3 movie, 10 bit 4:4:4',
    detail: 'MOV, every frame by itself, BT.709 limited range; its sound as PCM, 24 bits. For editing and finishing.',
    extension: 'mov',
    least: { width: 256, height: 120 },
  },
  h264: {
    group: 'For review',
    label: 'H.264 review file',
    detail: 'MP4, 8 bit 4:2:0, BT.709 limited range, CRF 16; its sound as AAC. For looking at, not for finishing.',
    extension: 'mp4',
  },
  av1: {
    group: 'For review',
    label: 'AV1 review file',
    detail: 'MP4, 10 bit 4:2:0, BT.709 limited range, CRF 18; its sound as AAC. For looking at, not for finishing.',
    extension: 'mp4',
    least: { width: 64, height: 64 },
  },
  mattePng16: {
    group: 'Mattes',
    label: 'Mattes, PNG sequences, 16 bit grey',
    detail: 'A folder a piece, cleaned up as rendered; downloaded as a zip.',
    extension: 'zip',
  },
  matteExr: {
    group: 'Mattes',
    label: 'Mattes, one OpenEXR a frame',
    detail: 'A half-float channel a piece, named after it; downloaded as a zip.',
    extension: 'zip',
  },
} as const satisfies Record<string, PresetWords>;
export const Preset = z.enum(Object.keys(PRESETS) as [keyof typeof PRESETS, ...(keyof typeof PRESETS)[]]);
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
