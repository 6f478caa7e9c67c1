// The sound of footage, as another input of ffmpeg.
import { frameCount, type Span } from '@mellow/contract';
import type { StoredMedia } from '../db/media.ts';
import { inputOf } from './decode.ts';
import type { MediaStore } from './store.ts';

/**
 * Input arguments for all sound of some frames of a media, where there is any, and nothing else of it. None for images,
 * and for videos whose frames do not lie where their times say: their sound would not fit.
 */
export function soundInput(store: MediaStore, stored: StoredMedia, span: Span): string[] {
  const { media, files } = stored;
  const { firstFrameSeconds } = files;
  if (media.kind !== 'video' || firstFrameSeconds === null || firstFrameSeconds === undefined) return [];
  const seconds = (frames: number) => (frames * media.fps.den) / media.fps.num;
  const from = firstFrameSeconds + seconds(span.from);
  const length = seconds(frameCount(span));
  return ['-vn', '-sn', '-dn', '-ss', from.toFixed(6), '-t', length.toFixed(6), ...inputOf(store, stored)];
}
