import { randomBytes, randomUUID } from 'node:crypto';
import { Media, type MediaId } from '@mellow/contract';
import type { StoredMedia } from '../db/media.ts';

/** Footage as the database knows it, whose files are nowhere. */
export function someMedia(): StoredMedia {
  const sha256 = randomBytes(32).toString('hex');
  const media = Media.parse({
    id: randomUUID() as MediaId,
    sha256,
    name: 'a.mp4',
    kind: 'video',
    width: 64,
    height: 36,
    fps: { num: 24, den: 1 },
    frames: 2,
    codec: 'ffv1',
    pixelFormat: 'yuv420p',
    bitDepth: 8,
    range: 'limited',
    matrix: 'bt709',
    primaries: 'bt709',
    transfer: 'bt709',
    timecode: null,
    proposedEncoding: 'rec709',
    notes: [],
  });
  return { media, files: { folder: sha256, input: 'a.mp4', startNumber: null } };
}
