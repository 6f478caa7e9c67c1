import { movie709 } from './movie.ts';

/** VC-3 (SMPTE ST 2019-1) at any size, 10 bits, no subsampling, every frame by itself. */
export const vc3 = movie709({
  pixels: 'yuv444p10le',
  codec: 'dnxhd -profile:v dnxhr_444',
  container: '-f mov',
  sound: 'pcm_s24le',
  isSubsampled: false,
});
