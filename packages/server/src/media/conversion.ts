import { holdsFloats, sharesColumns, sharesRows, type Media, type YCBCR_MATRICES } from '@mellow/contract';

type YcbcrMatrix = keyof typeof YCBCR_MATRICES;
/** ffmpeg's names of YCbCr matrices, as ffprobe prints them, in zscale's words. */
const ZSCALE_MATRIX: Record<string, string> & Record<YcbcrMatrix, string> = {
  bt709: '709',
  smpte170m: '170m',
  bt470bg: '470bg',
  smpte240m: '240m',
  fcc: 'fcc',
  bt2020nc: '2020_ncl',
  ycgco: 'ycgco',
};
const isRgb = (media: Pick<Media, 'matrix'>): boolean => media.matrix === 'gbr';
const isFloat = (media: Pick<Media, 'pixelFormat'>): boolean => holdsFloats(media.pixelFormat);
export const knowsMatrix = (matrix: string): boolean => matrix === 'gbr' || matrix in ZSCALE_MATRIX;

/** Raw RGB as it leaves the decoder: planar 16 bit, or float for float sources. Planes come in the order G, B, R. */
export const rawFormat = (media: Pick<Media, 'pixelFormat'>): 'gbrp16le' | 'gbrpf32le' =>
  isFloat(media) ? 'gbrpf32le' : 'gbrp16le';

/**
 * Planar RGB of the media's own depth, native byte order: `gbrp`, `gbrp10le`, `gbrpf32le`. Repacking to it loses
 * nothing.
 */
function planarRgb(media: Pick<Media, 'pixelFormat' | 'bitDepth'>): string {
  if (isFloat(media)) return 'gbrpf32le';
  return media.bitDepth > 8 ? `gbrp${media.bitDepth}le` : 'gbrp';
}

/**
 * What comes before all else: the two fields of an interlaced frame are one picture, or the first of them is made
 * whole out of itself and its neighbours in time. Otherwise zscale would take a frame of two fields for one field.
 */
export function fieldFilters({ fields, isDeinterlaced }: Media): string {
  if (fields === 'progressive') return '';
  if (!isDeinterlaced) return 'setfield=mode=prog,';
  return `bwdif=mode=send_frame:parity=${fields === 'top first' ? 'tff' : 'bff'}:deint=all,`;
}

/**
 * Chroma of video lies on the even columns, between the rows (BT.709-6 item 3.6); of a picture that is turned by a
 * quarter it lies on rows: zscale is told so. In words for its input, empty where they need not be said.
 */
function turnedChroma({ turnedDeg, pixelFormat, codec }: Media): string {
  if (codec === 'mjpeg' || !sharesColumns(pixelFormat)) return '';
  if (turnedDeg === 90) return 'chromalin=top:';
  return turnedDeg === 270 ? 'chromalin=bottom:' : '';
}

/**
 * zscale takes no picture whose last chroma sample is half outside it. Where the size is odd, chroma is brought to full
 * size first (bicubic, by where its samples lie). Luma passes through: limited-range video is widened to 16 bits by a
 * shift, which is exact (Rec. ITU-R BT.709-6 item 4.6), so that chroma is not rounded twice. Empty where the size is
 * even.
 */
function wholeChroma({ width, height, pixelFormat, bitDepth, range, codec }: Media): string {
  const isOdd = (sharesColumns(pixelFormat) && width % 2 === 1) || (sharesRows(pixelFormat) && height % 2 === 1);
  if (!isOdd) return '';
  // JPEG's chroma lies between the columns (JFIF 1.02), that of video on the even ones (BT.709-6 item 3.6)
  const places = `in_h_chr_pos=${codec === 'mjpeg' ? 128 : 0}:in_v_chr_pos=128`;
  const ranges = `in_range=${range}:out_range=${range}`;
  const ownDepth = pixelFormat.startsWith('yuvj') ? 'yuvj444p' : `yuv444p${bitDepth > 8 ? `${bitDepth}le` : ''}`;
  const samples = range === 'limited' ? 'yuv444p16le' : ownDepth;
  const flags = 'flags=bicubic+accurate_rnd+full_chroma_inp';
  return `scale=${places}:${ranges}:${flags},format=${samples},`;
}

/**
 * Spreads codes of limited range, 16 to 235 times 2^(n − 8) (Rec. ITU-T H.273, 8.3), over all 16 bits, to a code:
 * zscale takes RGB of any range for full.
 */
function widenedRgb({ bitDepth }: Media): string {
  const share = (v: number) => ((v * 2 ** (bitDepth - 8)) / (2 ** bitDepth - 1)).toFixed(9);
  return `colorlevels=${['r', 'g', 'b'].map((c) => `${c}imin=${share(16)}:${c}imax=${share(235)}`).join(':')}`;
}

/**
 * The filter chain from a media's own samples to full-range RGB code values in the same transfer and primaries. All
 * four properties are named on both sides: an untagged swscale conversion is off by thousands of 16-bit codes. Depths
 * are expanded exactly (v · 65535 / 1023). With `size` the picture is scaled down on the way (bicubic with proper
 * support).
 */
export function toRgbFilters(media: Media, format: string, size?: { width: number; height: number }): string {
  const isScaled = size && (size.width !== media.width || size.height !== media.height);
  const scaled = isScaled ? `w=${size.width}:h=${size.height}:filter=bicubic:` : '';
  const same = 'primariesin=709:primaries=709:transferin=709:transfer=709';
  if (isRgb(media)) {
    const rgb = `matrixin=gbr:matrix=gbr:rangein=full:range=full:${same}`;
    // files of RGB are full, whatever they state, unless one says that they are not
    const isWidened = media.stated !== null && media.range === 'limited';
    const widened = isWidened ? `zscale=${rgb},format=gbrp16le,${widenedRgb(media)},` : '';
    return `format=${planarRgb(media)},${widened}zscale=${scaled}${rgb},format=${format}`;
  }
  const from = `${turnedChroma(media)}matrixin=${ZSCALE_MATRIX[media.matrix]}:rangein=${media.range}`;
  return `${wholeChroma(media)}zscale=${scaled}${from}:matrix=gbr:range=full:${same},format=${format}`;
}

/** The same of floats that are linear light, for the eye: as sRGB, what lies past white clipped. */
export const litFilters = (media: Media, format: string, size?: { width: number; height: number }): string =>
  `${toRgbFilters(media, 'gbrpf32le', size)},zscale=transferin=linear:transfer=iec61966-2-1:primariesin=709:` +
  `primaries=709:matrixin=gbr:matrix=gbr:rangein=full:range=full,format=${format}`;

/**
 * The same with pixels picked out, not averaged, where the picture is made smaller: each has the grain and the clipping
 * of the full size, so that a mean over them is the mean of the full picture.
 */
export function pickedRgbFilters(media: Media, format: string, { width, height }: { width: number; height: number }) {
  const whole = toRgbFilters(media, format);
  if (width === media.width && height === media.height) return whole;
  return `${whole},zscale=w=${width}:h=${height}:filter=point:matrixin=gbr:matrix=gbr:rangein=full:range=full`;
}

/** The filter chain from a media's own samples to luma of full range: for tracking, where only relations matter. */
export function lumaFilters(media: Media): string {
  if (isRgb(media))
    return `${toRgbFilters(media, 'gbrp16le')},zscale=matrixin=gbr:rangein=full:matrix=709:range=full,format=gray16le`;
  return `${wholeChroma(media)}zscale=rangein=${media.range}:range=full,format=gray16le`;
}

/** The filter chain from a media's alpha channel to grey of full range, scaled to `size`. */
export const alphaFilters = (size: { width: number; height: number }, format: 'gray' | 'gray16le'): string =>
  `alphaextract,scale=${size.width}:${size.height}:flags=bicubic:in_range=full:out_range=full,format=${format}`;
