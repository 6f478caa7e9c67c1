import type { StoredMedia } from '../db/media.ts';

/** Names of a media's files, in order. */
export function fileNames({ media, files: { input, startNumber } }: StoredMedia): string[] {
  const place = /%0?(\d*)d/.exec(input);
  if (startNumber === null || !place) return [input];
  const digits = Number(place[1] || 1);
  return Array.from({ length: media.frames }, (_, k) =>
    input.replace(place[0], () => String(startNumber + k).padStart(digits, '0')),
  );
}
