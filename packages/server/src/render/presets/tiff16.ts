import { codeSequence } from './sequence.ts';

/** One lossless TIFF 6.0 a frame, 16 bits a channel, packed by deflate. */
export const tiff16 = codeSequence({
  extension: 'tif',
  samples: '16 bit',
  codec: 'tiff -pix_fmt rgb48le -compression_algo deflate',
});
