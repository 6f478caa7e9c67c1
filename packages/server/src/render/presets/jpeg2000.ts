import { join } from 'node:path';
import { words } from '../../media/words.ts';
import { rawInput, rgbTags, type PictureOutput } from './output.ts';

/** JPEG 2000 (ISO/IEC 15444-1), its reversible transform: lossless, 16 bits, every frame by itself, in Matroska. */
export const jpeg2000: PictureOutput = {
  what: 'picture',
  samples: '16 bit',
  encodingOf: (shot) => shot,
  framesIn: undefined,
  path: join,
  args: (media, encoding, output) => [
    ...rawInput(media),
    ...words('-c:v libopenjpeg -pix_fmt rgb48le -irreversible 0'),
    ...rgbTags(encoding),
    ...(media.timecode ? ['-metadata', `timecode=${media.timecode}`] : []),
    ...words('-f matroska'),
    output,
  ],
};
