import { codeSequence } from './sequence.ts';

/** One DPX a frame (SMPTE ST 268-1), 10 bits a channel: 16-bit codes are rounded. */
export const dpx10 = codeSequence({ extension: 'dpx', samples: '10 bit', codec: 'dpx -pix_fmt gbrp10be' });
/** The same with 12 bits. */
export const dpx12 = codeSequence({ extension: 'dpx', samples: '12 bit', codec: 'dpx -pix_fmt gbrp12be' });
/** The same with all 16 bits. */
export const dpx16 = codeSequence({ extension: 'dpx', samples: '16 bit', codec: 'dpx -pix_fmt rgb48be' });
