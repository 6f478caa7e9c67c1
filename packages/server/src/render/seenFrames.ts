import type { Span } from '@mellow/contract';
import { isScribbled, type CodePicture, type SightingRender } from '@mellow/core';
import type { StoredMedia } from '../db/media.ts';
import { decodeSeen } from '../media/decode.ts';
import type { MediaStore } from '../media/store.ts';

/** The frames of a shot as the viewer has them, one after the other. */
export interface SeenFrames {
  next(): Promise<CodePicture | undefined>;
  close(): Promise<void>;
}

/** Opens them where some of the stacks have strokes, which are decided on them; of others there is no frame. */
export function openSeen(
  store: MediaStore,
  media: StoredMedia,
  sightings: readonly Pick<SightingRender, 'layers'>[],
  span: Span,
  signal: AbortSignal,
): SeenFrames {
  if (!sightings.some((s) => isScribbled(s.layers)))
    return { next: () => Promise.resolve(undefined), close: () => Promise.resolve() };
  const frames = decodeSeen(store, media, { span, signal });
  return {
    next: async () => (await frames.next()).value as CodePicture | undefined,
    close: async () => void (await frames.return(undefined)),
  };
}
