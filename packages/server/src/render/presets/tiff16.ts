import { codeSequence } from './sequence.ts';

/** One lossless TIFF 6.0 a frame, 16 bits a channel, packed by deflate. */
export const tiff16 = codeSequence({
  extension: 'tif',
  samples: '16 bit',
  codec: 'tiff -pix_fmt rgb48le -compression_algo deflate',
});
/** The same with α: ExtraSamples 2, unassociated. */
export const tiff16Alpha = codeSequence({
  extension: 'tif',
  samples: '16 bit, alpha',
  codec: 'tiff -pix_fmt rgba64le -compression_algo deflate',
});
