import { codeSequence } from './sequence.ts';

/** One lossless PNG a frame (ISO/IEC 15948), 16 bits a channel. */
export const png16 = codeSequence({
  extension: 'png',
  samples: '16 bit',
  codec: 'png -pix_fmt rgb48be -pred up -compression_level 3',
});
/** The same with α, which the standard has beside colour that is not multiplied by it. */
export const png16Alpha = codeSequence({
  extension: 'png',
  samples: '16 bit, alpha',
  codec: 'png -pix_fmt rgba64be -pred up -compression_level 3',
});
