import type { Media } from '@mellow/contract';

/** ffmpeg's names of YCbCr matrices, as ffprobe prints them, in zscale's words. */
const ZSCALE_MATRIX: Record<string, string> = {
  bt709: '709',
  smpte170m: '170m',
  bt470bg: '470bg',
  smpte240m: '240m',
  fcc: 'fcc',
  bt2020nc: '2020_ncl',
  ycgco: 'ycgco',
};
export const isRgb = (media: Pick<Media, 'matrix'>): boolean => media.matrix === 'gbr';
export const isFloat = (media: Pick<Media, 'pixelFormat'>): boolean => /f32|f16/.test(media.pixelFormat);
export const knowsMatrix = (matrix: string): boolean => matrix === 'gbr' || matrix in ZSCALE_MATRIX;

/** Raw RGB as it leaves the decoder: planar 16 bit, or float for float sources. Planes come in the order G, B, R. */
export const rawFormat = (media: Pick<Media, 'pixelFormat'>): 'gbrp16le' | 'gbrpf32le' =>
  isFloat(media) ? 'gbrpf32le' : 'gbrp16le';

/**
 * The filter chain from a media's own samples to full-range RGB code values in the same transfer and primaries. All
 * four properties are named on both sides: an untagged swscale conversion is off by thousands of 16-bit codes.
 * With `size` the picture is scaled down on the way (bicubic with proper support).
 */
export function toRgbFilters(media: Media, format: string, size?: { width: number; height: number }): string {
  const scaled =
    size && (size.width !== media.width || size.height !== media.height)
      ? `w=${size.width}:h=${size.height}:filter=bicubic:`
      : '';
  const same = 'primariesin=709:primaries=709:transferin=709:transfer=709';
  if (isRgb(media)) {
    // repack to planar first (lossless); zscale then changes depth and size
    const planar = isFloat(media) ? 'gbrpf32le' : media.bitDepth > 8 ? 'gbrp16le' : 'gbrp';
    return `format=${planar},zscale=${scaled}matrixin=gbr:matrix=gbr:rangein=full:range=full:${same},format=${format}`;
  }
  return `zscale=${scaled}matrixin=${ZSCALE_MATRIX[media.matrix]}:rangein=${media.range}:matrix=gbr:range=full:${same},format=${format}`;
}

/** The filter chain from a media's own samples to luma of full range: for tracking, where only relations matter. */
export function lumaFilters(media: Media): string {
  if (isRgb(media))
    return `${toRgbFilters(media, 'gbrp16le')},zscale=matrixin=gbr:rangein=full:matrix=709:range=full,format=gray16le`;
  return `zscale=rangein=${media.range}:range=full,format=gray16le`;
}

/** The filter chain from a media's alpha channel to grey of full range, scaled to `size`. */
export const alphaFilters = (size: { width: number; height: number }, format: 'gray' | 'gray16le'): string =>
  `alphaextract,scale=${size.width}:${size.height}:flags=bicubic:in_range=full:out_range=full,format=${format}`;
