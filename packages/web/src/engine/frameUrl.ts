import type { FrameSize } from '@mellow/contract';
import { addressOf } from '../data/requests.ts';

/** Where a frame's picture lies: its proxy, thumbnail or α. */
export const frameUrl = (mediaId: string, frame: number, size: FrameSize = 'proxy'): string =>
  addressOf('frame', { mediaId, size, frame: `${frame}.png` });
