import { pngInEncoding } from '../../media/pngColour.ts';
import type { PictureOutput } from './output.ts';
import { codeSequence } from './sequence.ts';

const png = (samples: '16 bit' | '16 bit, alpha', pixels: string): PictureOutput => ({
  ...codeSequence({ extension: 'png', samples, codec: `png -pix_fmt ${pixels} -pred up -compression_level 3` }),
  inEncoding: pngInEncoding,
});
/** One lossless PNG a frame (ISO/IEC 15948), 16 bits a channel. */
export const png16 = png('16 bit', 'rgb48be');
/** The same with α, which the standard has beside colour that is not multiplied by it. */
export const png16Alpha = png('16 bit, alpha', 'rgba64be');
