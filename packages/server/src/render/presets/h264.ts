import { movie709 } from './movie.ts';

/** What every player shows alike (ITU-T H.264). For looking at. */
export const h264 = movie709({
  pixels: 'yuv420p',
  codec: 'libx264 -preset medium -crf 16',
  container: '-movflags +faststart -f mp4',
  sound: 'aac -b:a 256k',
  isSubsampled: true,
});
