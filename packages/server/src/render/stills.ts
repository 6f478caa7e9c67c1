// Small pictures of what was rendered, taken from the same frames the file is made of.
import { join } from 'node:path';
import { proxySize, stillFrames, type Media } from '@mellow/contract';
import { words } from '../media/words.ts';

/** Their width at most, px: three in a row of the deliver stage, on a fine screen. */
const STILL_WIDTH = 480;

export const stillsIn = (folder: string): string => join(folder, 'stills');
export const stillPath = (folder: string, still: number): string => join(stillsIn(folder), `${still}.png`);

/**
 * ffmpeg's arguments for them, as one more output beside the file's. `first` says which of the frames it reads they are
 * chosen from; `filter` comes before they are made smaller.
 */
export function stillArgs(
  { frames, width, height }: Media,
  folder: string,
  { first, filter }: { first?: string; filter?: string | undefined } = {},
): string[] {
  const { width: w, height: h } = proxySize(width, height, STILL_WIDTH);
  const chosen = stillFrames(frames)
    .map((frame) => `eq(n\\,${frame})`)
    .join('+');
  return [
    ...words('-map 0:v -vf'),
    [first, `select=${chosen}`, filter, `scale=${w}:${h}:flags=area`].filter(Boolean).join(),
    ...words('-fps_mode passthrough -f image2 -start_number 0 -c:v png -pix_fmt rgb24'),
    join(stillsIn(folder), '%d.png'),
  ];
}
