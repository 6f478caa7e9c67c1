// What a stream says of its colour, what is assumed where it says nothing, and which encoding that proposes.
import { hasAlpha, holdsFloats, type Media } from '@mellow/contract';
import { ENCODING_NAMES, ENCODINGS, type Encoding, type EncodingRecord } from '@mellow/core';
import { knowsMatrix } from './conversion.ts';
import { refusedMedia } from './probed.ts';

/** The fields of an ffprobe stream that tell of its colour. */
export interface ColourTags {
  codec_name?: string | undefined;
  color_range?: string | undefined;
  color_space?: string | undefined;
  color_primaries?: string | undefined;
  color_transfer?: string | undefined;
  bits_per_raw_sample?: string | undefined;
  /** x and y of red, green, blue and white, where the file says them in numbers. */
  chromaticities?: readonly number[] | undefined;
  /** The encoding that the file says by code points which ffprobe does not tell. */
  coded?: Encoding | undefined;
}
type StatedColour = Pick<
  Media,
  'bitDepth' | 'range' | 'matrix' | 'primaries' | 'transfer' | 'proposedEncoding' | 'notes'
>;

const [NO_MATRIX, NO_RANGE] = ['The YCbCr matrix is not stated', 'The range is not stated'];
/** Does a note tell of something assumed that no longer counts once it is said how footage is read? */
export const isAssumption = (note: string): boolean => note.startsWith(NO_MATRIX) || note.startsWith(NO_RANGE);

const known = (value: string | undefined): string | undefined =>
  value && !['unknown', 'unspecified', 'reserved'].includes(value) ? value : undefined;
const isRgbFormat = (pixelFormat: string): boolean =>
  /^(gbr|rgb|bgr|argb|abgr|0rgb|0bgr|pal8|gray|ya|mono|x2rgb)/.test(pixelFormat);
const STILL_CODECS = ['png', 'mjpeg', 'tiff', 'jpegls', 'bmp', 'webp'];
/** Primaries near enough to BT.709's that such footage is read as BT.709, with a note. */
const LIKE_709 = ['bt709', 'smpte170m', 'smpte240m', 'bt470bg', 'bt470m'];

function bitDepthOf(pixelFormat: string, raw: string | undefined): number {
  const named = /(?:p|gray|gbrp|rgb|rgba|bgr|bgra|ya|x2rgb)(9|10|12|14|16|48|64)(?:le|be)?$/.exec(pixelFormat)?.[1];
  if (/f32|f16/.test(pixelFormat)) return pixelFormat.includes('f16') ? 16 : 32;
  if (named) return { 48: 16, 64: 16 }[Number(named)] ?? Number(named);
  return Number(raw) || 8;
}

/** Transfer characteristics of H.273 that are read with the primaries they were made for only. */
const HIGH_RANGE = ['smpte2084', 'arib-std-b67'];
const tagsOf = (encoding: Encoding): EncodingRecord['tags'] => ENCODINGS[encoding].tags;

/** Which of the known encodings the tags mean; a refusal where none does. */
function proposedFor(
  name: string,
  { codec, primaries, transfer, isLinear }: { codec: string; primaries: string; transfer: string; isLinear: boolean },
): Encoding {
  if (LIKE_709.includes(primaries) && !HIGH_RANGE.includes(transfer)) {
    if (isLinear) return 'linear709';
    return STILL_CODECS.includes(codec) || transfer === 'iec61966-2-1' ? 'srgb' : 'rec709';
  }
  const candidates = ENCODING_NAMES.filter((e) => tagsOf(e).primaries === primaries);
  if (candidates.length === 0) {
    const known = new Set(ENCODING_NAMES.map((e) => tagsOf(e).primaries).filter((p) => p !== 'unknown'));
    throw refusedMedia(
      name,
      `its primaries (${primaries}) are not supported yet; these are: ${[...known].join(', ')}.`,
    );
  }
  const stated = candidates.find((e) => tagsOf(e).transfer === (isLinear ? 'linear' : transfer));
  if (!stated && HIGH_RANGE.includes(transfer))
    throw refusedMedia(name, `its transfer function (${transfer}) is supported with bt2020 primaries only.`);
  return stated ?? candidates[0]!;
}

/** Chromaticities are written as floats, and rounded by some: nearer than this they are the same. */
const SAME_CHROMATICITY = 0.0005;
/** Linear light of the stated primaries; undefined where none of the known encodings is it. */
const linearOf = (stated: readonly number[]): Encoding | undefined =>
  ENCODING_NAMES.filter((e) => tagsOf(e).transfer === 'linear').find((e) => {
    const { red, green, blue, white } = ENCODINGS[e].primaries;
    return [...red, ...green, ...blue, ...white].every((v, k) => Math.abs(v - stated[k]!) <= SAME_CHROMATICITY);
  });

/** The colour of a stream. Throws Refused, naming the property, for what cannot be read truly. */
export function statedColour(
  name: string,
  stream: ColourTags,
  pixelFormat: string,
  { width, height }: { width: number; height: number },
): StatedColour {
  const notes: string[] = [];
  const isRgb = isRgbFormat(pixelFormat);
  const isHd = width >= 1280 || height >= 720;
  const statedMatrix = isRgb ? 'gbr' : known(stream.color_space);
  const matrix = statedMatrix ?? (isHd ? 'bt709' : 'smpte170m');
  if (!statedMatrix) notes.push(`${NO_MATRIX}; ${isHd ? 'BT.709' : 'BT.601'} was assumed from the size.`);
  if (!knowsMatrix(matrix)) throw refusedMedia(name, `its YCbCr matrix (${matrix}) is not supported.`);
  const primaries = known(stream.color_primaries) ?? 'bt709';
  if (LIKE_709.includes(primaries) && primaries !== 'bt709')
    notes.push(`The primaries ${primaries} are read as BT.709.`);
  const transfer = known(stream.color_transfer) ?? 'unspecified';
  if (['log100', 'log316', 'smpte428'].includes(transfer))
    throw refusedMedia(name, `its transfer function (${transfer}) is not supported yet.`);
  const isFullByName = isRgb || pixelFormat.startsWith('yuvj');
  const stated = known(stream.color_range);
  // that is how it is read: a tag of RGB is wrong more often than not, and is corrected by hand where it is right
  const range = isRgb ? 'pc' : (stated ?? (isFullByName ? 'pc' : 'tv'));
  if (isRgb && stated === 'tv') notes.push('It is marked as of limited range; as RGB it is read as full.');
  if (!stated && !isFullByName) notes.push(`${NO_RANGE}; limited was assumed.`);
  if (hasAlpha(pixelFormat) && pixelFormat !== 'pal8')
    notes.push('The alpha channel is used by plate mattes only and not written to renders.');
  const bitDepth = bitDepthOf(pixelFormat, stream.bits_per_raw_sample);
  // many 8 and 10 bit files are tagged linear that cannot be: that few bits do not hold linear light
  const isLinear = holdsFloats(pixelFormat) || (transfer === 'linear' && bitDepth >= 16);
  const codec = stream.codec_name ?? '';
  const { chromaticities } = stream;
  const inNumbers = chromaticities && linearOf(chromaticities);
  if (chromaticities && !inNumbers)
    notes.push(`Its primaries (${chromaticities.map((v) => v.toFixed(4)).join(' ')}) are none that is known.`);
  const proposedEncoding = stream.coded ?? inNumbers ?? proposedFor(name, { codec, primaries, transfer, isLinear });
  return { bitDepth, range: range === 'pc' ? 'full' : 'limited', matrix, primaries, transfer, proposedEncoding, notes };
}
