import { z } from 'zod';
import { Encoding } from './entities.ts';
import { JobId, MediaId } from './ids.ts';

export const Rate = z.object({ num: z.number().int().positive(), den: z.number().int().positive() });
export type Rate = z.infer<typeof Rate>;

/** How numbered images and unevenly stamped frames are to be taken. */
export const ImportOptions = z.object({
  /** Rate of numbered images. */
  fps: z.number().positive().max(240).optional(),
  /** `frame by frame`: each frame of a file whose timestamps are uneven counts as one, at the nearest standard rate. */
  timing: z.enum(['as stamped', 'frame by frame']).optional(),
});
export type ImportOptions = z.infer<typeof ImportOptions>;

/** In which order the two fields of an interlaced frame were taken. */
export const Fields = z.enum(['progressive', 'top first', 'bottom first']);
export type Fields = z.infer<typeof Fields>;

/** YCbCr matrices in ffmpeg's names, which are those of Rec. ITU-T H.273 in short. */
export const YCBCR_MATRICES = {
  bt709: 'BT.709',
  smpte170m: 'BT.601, 525 lines',
  bt470bg: 'BT.601, 625 lines',
  smpte240m: 'SMPTE ST 240',
  fcc: 'FCC',
  bt2020nc: 'BT.2020, non-constant',
  ycgco: 'YCgCo',
} as const;
const SampleRange = z.enum(['limited', 'full']);

/** How the samples of footage are read: as its file states, or corrected. */
export const Reading = z.object({
  /** `gbr` where the samples are RGB. */
  matrix: z.enum(['gbr', ...(Object.keys(YCBCR_MATRICES) as (keyof typeof YCBCR_MATRICES)[])]),
  range: SampleRange,
  /** Each frame is made whole of its first field (bwdif); only of interlaced footage. */
  isDeinterlaced: z.boolean(),
});
export type Reading = z.infer<typeof Reading>;

/**
 * Footage as it came in, described by ffprobe; never rewritten. The same files read otherwise are another media, with
 * the same hash.
 */
export const Media = z.object({
  id: MediaId,
  sha256: z.string().regex(/^[0-9a-f]{64}$/),
  name: z.string(),
  kind: z.enum(['video', 'sequence']),
  width: z.number().int().positive(),
  height: z.number().int().positive(),
  fps: Rate,
  frames: z.number().int().positive(),
  codec: z.string(),
  pixelFormat: z.string(),
  bitDepth: z.number().int().positive(),
  range: SampleRange,
  /** YCbCr matrix in ffmpeg's names, or `gbr` for RGB. */
  matrix: z.string(),
  fields: Fields.default('progressive'),
  /** Turned so far clockwise for width and height to be upright; the file's own samples lie otherwise. */
  turnedDeg: z.literal([0, 90, 180, 270]).default(0),
  /** A pixel's width to its height. */
  pixelAspect: Rate.default({ num: 1, den: 1 }),
  isDeinterlaced: z.boolean().default(false),
  /** What the file states, or what was assumed, where it is read otherwise. */
  stated: z.object({ matrix: z.string(), range: SampleRange }).nullable().default(null),
  primaries: z.string(),
  transfer: z.string(),
  timecode: z.string().nullable(),
  proposedEncoding: Encoding,
  /** What was assumed or will not be carried along, in plain words. */
  notes: z.array(z.string()),
});
export type Media = z.infer<typeof Media>;

/** The first frame of a new shot in footage, as it was found, and how sure that is. */
export const FoundCut = z.object({ frame: z.number().int().min(1), certainty: z.number().min(0).max(1) });
export type FoundCut = z.infer<typeof FoundCut>;

/** Footage that is no longer what was brought in: a file of it is missing, or the bytes are others. */
export const FootageFault = z.object({
  mediaId: MediaId,
  name: z.string(),
  fault: z.enum(['missing', 'changed']),
  /** The first file that is missing. */
  file: z.string().nullable(),
});
export type FootageFault = z.infer<typeof FootageFault>;

/**
 * Sizes in which frames are served: `proxy` (up to 960 px wide), `thumb` (up to 240), and at proxy size the alpha
 * channel as grey where there is one, and, of floats, half floats as the bytes of a picture twice as high.
 */
export const FrameSize = z.enum(['proxy', 'thumb', 'alpha', 'half']);
export type FrameSize = z.infer<typeof FrameSize>;
export const PROXY_WIDTH = 960;
export const THUMB_WIDTH = 240;

export const ProxyState = z.object({
  state: z.enum(['queued', 'running', 'done', 'failed', 'cancelled']),
  jobId: JobId,
  done: z.number().int(),
  total: z.number().int(),
  message: z.string().nullable(),
});
export type ProxyState = z.infer<typeof ProxyState>;

/** Are the samples of a pixel format, in ffmpeg's words, floats? */
export const holdsFloats = (pixelFormat: string): boolean => /f32|f16/.test(pixelFormat);
/** Does a pixel format, in ffmpeg's words, carry an alpha channel? */
export const hasAlpha = (pixelFormat: string): boolean =>
  /^(yuva|gbrap|rgba|bgra|argb|abgr|ya\d|pal8)/.test(pixelFormat);

/** Is a chroma sample shared by two columns, of a pixel format in ffmpeg's words? */
export const sharesColumns = (pixelFormat: string): boolean =>
  /^(yuvj?a?(420|422|411|410)|nv(12|16|20|21)|p[02]|y21|uyvy|uyyv|yuyv|yvyu)/.test(pixelFormat);
/** Or by two rows? */
export const sharesRows = (pixelFormat: string): boolean => /^(yuvj?a?(420|440|410)|nv12|nv21|p0)/.test(pixelFormat);
/** Has footage fewer samples of chroma than of luma (4:2:2, 4:2:0)? */
export const sharesChroma = ({ pixelFormat }: Pick<Media, 'pixelFormat'>): boolean =>
  sharesColumns(pixelFormat) || sharesRows(pixelFormat);

/** The proxy's size for a picture: no wider than PROXY_WIDTH, no wider than the picture. */
export function proxySize(
  width: number,
  height: number,
  limit = PROXY_WIDTH,
): { width: number; height: number; scale: number } {
  const scale = Math.min(1, limit / width);
  return { width: Math.round(width * scale), height: Math.max(Math.round(height * scale), 1), scale };
}

/** A file or image sequence found in the media folder. */
export const FolderEntry = z.object({
  path: z.string(),
  name: z.string(),
  kind: z.enum(['folder', 'video', 'sequence']),
  frames: z.number().int().nullable(),
});
export type FolderEntry = z.infer<typeof FolderEntry>;
