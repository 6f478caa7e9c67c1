import { join } from 'node:path';
import { rawInput, rgbTags, type PictureOutput } from './output.ts';
import { words } from '../../media/words.ts';

/** FFV1 version 3 (RFC 9043) in Matroska, every frame by itself and with checksums, in the shot's own encoding. */
export const ffv1: PictureOutput = {
  what: 'picture',
  samples: '16 bit',
  encodingOf: (shot) => shot,
  framesIn: undefined,
  path: join,
  args: (media, encoding, output) => [
    ...rawInput(media),
    ...words('-c:v ffv1 -level 3 -g 1 -slicecrc 1 -slices 4'),
    ...rgbTags(encoding),
    ...(media.timecode ? ['-metadata', `timecode=${media.timecode}`] : []),
    ...words('-f matroska'),
    output,
  ],
};
