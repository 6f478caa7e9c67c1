import { join } from 'node:path';
import { rawInput, type PresetOutput } from './output.ts';
import { words } from '../../media/words.ts';

const framesIn = (folder: string): string => join(folder, 'frames');

/** One lossless PNG a frame, 16 bits a channel, in the shot's own encoding. */
export const png16: PresetOutput = {
  encodingOf: (shot) => shot,
  framesIn,
  path: (folder, fileName) => join(framesIn(folder), `${fileName.replace(/\.zip$/, '')}.%06d.png`),
  args: (media, _encoding, output) => [
    ...rawInput(media),
    ...words('-f image2 -start_number 0 -c:v png -pix_fmt rgb48be -pred up -compression_level 3'),
    output,
  ],
};
