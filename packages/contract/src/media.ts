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

/** Footage as it came in, described by ffprobe; never rewritten. */
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
  range: z.enum(['limited', 'full']),
  /** YCbCr matrix in ffmpeg's names, or `gbr` for RGB. */
  matrix: z.string(),
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
 * Sizes in which frames are served: `proxy` (up to 960 px wide), `thumb` (up to 240), and the alpha channel as grey at
 * proxy size where there is one.
 */
export const FrameSize = z.enum(['proxy', 'thumb', 'alpha']);
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

/** Does a pixel format, in ffmpeg's words, carry an alpha channel? */
export const hasAlpha = (pixelFormat: string): boolean =>
  /^(yuva|gbrap|rgba|bgra|argb|abgr|ya\d|pal8)/.test(pixelFormat);

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
