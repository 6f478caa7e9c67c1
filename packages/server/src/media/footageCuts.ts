// Cuts in footage, found in the small pictures that are kept of its frames.
import { findCuts, frameLook, type FoundCut, type FrameLook } from '@mellow/core';
import type { StoredMedia } from '../db/media.ts';
import { decodeThumbs } from './decode.ts';
import type { MediaStore } from './store.ts';

const SIZE = { width: 64, height: 36 };

/** First frames of new shots, by their number in the footage. Its small pictures must be there. */
export async function footageCuts(store: MediaStore, stored: StoredMedia, signal: AbortSignal): Promise<FoundCut[]> {
  const looks: FrameLook[] = [];
  for await (const rgb of decodeThumbs(store, stored, SIZE, signal))
    looks.push(frameLook(rgb, SIZE.width, SIZE.height));
  return findCuts(looks);
}
