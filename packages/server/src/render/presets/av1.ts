import { movie709 } from './movie.ts';

/** 10 bits and half the size (AOMedia AV1). For looking at. */
export const av1 = movie709({
  pixels: 'yuv420p10le',
  codec: 'libsvtav1 -preset 8 -crf 18',
  container: '-movflags +faststart -f mp4',
  sound: 'aac -b:a 256k',
  isSubsampled: true,
});
