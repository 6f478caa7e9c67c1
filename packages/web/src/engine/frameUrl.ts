import { holdsFloats, type FrameSize, type Media } from '@mellow/contract';
import { addressOf } from '../data/requests.ts';

/** Where a frame's picture lies: its proxy, thumbnail or α. */
export const frameUrl = (mediaId: string, frame: number, size: FrameSize = 'proxy'): string =>
  addressOf('frame', { mediaId, size, frame: `${frame}.png` });
/** Where the code values of a frame lie, as the engine reads them. */
export const codesUrl = ({ id, pixelFormat }: Pick<Media, 'id' | 'pixelFormat'>, frame: number): string =>
  frameUrl(id, frame, holdsFloats(pixelFormat) ? 'half' : 'proxy');
/** Where the mask lies that a pass found on a frame. */
export const carriedUrl = (projectId: string, runId: string, frame: number): string =>
  addressOf('carriedFrame', { projectId, runId, frame: `${frame}` });
/** Are a picture's bytes those of half floats? */
export const isOfHalves = (url: string): boolean => /\/half\/\d+\.png$/.test(url);
