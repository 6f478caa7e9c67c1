import { fineSize, type CodePicture } from '@mellow/core';
import type { StoredMedia } from '../db/media.ts';
import { decodeFrames } from '../media/decode.ts';
import type { MediaStore } from '../media/store.ts';

/** Going backwards, so many frames are decoded at a time, and held. */
const BLOCK = 24;

/** Frames from one to another, both included, in either direction, at the size outlines are cut at. */
export async function* carryFrames(
  store: MediaStore,
  media: StoredMedia,
  { from, to }: { from: number; to: number },
  signal: AbortSignal,
): AsyncGenerator<{ at: number; codes: CodePicture }> {
  const size = fineSize(media.media.width, media.media.height);
  const span = (first: number, last: number) =>
    decodeFrames(store, media, { size, signal, span: { from: first, to: last } });
  if (to >= from) {
    let at = from;
    for await (const codes of span(from, to)) yield { at: at++, codes };
    return;
  }
  for (let last = from; last >= to; last -= BLOCK) {
    const first = Math.max(last - BLOCK + 1, to);
    const block: CodePicture[] = [];
    for await (const codes of span(first, last)) block.push(codes);
    for (let k = block.length - 1; k >= 0; k--) yield { at: first + k, codes: block[k]! };
  }
}
