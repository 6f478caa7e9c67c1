import { join } from 'node:path';
import type { Media } from '@mellow/contract';
import { words } from '../../media/words.ts';
import { rawInput, rgbTags, shapeArgs, shapeFilters, soundArgs, type PictureOutput } from './output.ts';

/** One lossless file of 16-bit RGB in Matroska, in the shot's own encoding, with the source's timecode and sound. */
export const matroska = (codec: (media: Media) => string): PictureOutput => ({
  what: 'picture',
  samples: '16 bit',
  isExact: true,
  encodingOf: (shot) => shot,
  framesIn: undefined,
  path: join,
  args: (media, encoding, output) => {
    const sound = soundArgs(media, 'pcm_s24le');
    return [
      ...rawInput(media),
      ...sound.input,
      ...sound.output,
      ...shapeArgs(shapeFilters(media)),
      ...words(`-c:v ${codec(media)}`),
      ...rgbTags(encoding),
      ...(media.timecode ? ['-metadata', `timecode=${media.timecode}`] : []),
      ...words('-f matroska'),
      output,
    ];
  },
});
