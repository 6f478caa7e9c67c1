import type { Media } from '@mellow/contract';
import { ENCODINGS, type Encoding } from '@mellow/core';
import { words } from '../../media/words.ts';
import type { FrameSink, SinkJob } from '../sinks/frameSink.ts';
import type { MattePacking, PicturePacking } from '../sinks/packed.ts';

/** Footage as it goes out. */
export interface Outgoing extends Media {
  /** The number of its first frame. */
  firstFrame: number;
  /** ffmpeg's arguments for its sound, as a second input; empty: it has none that fits. */
  sound: string[];
  /** What is written over the picture of review files; left out: nothing. */
  burnIn?: string | undefined;
}
interface Output {
  /** The delivery's folder of numbered files, sent as a zip; undefined for a single file. */
  framesIn: ((folder: string) => string) | undefined;
}
/**
 * What ffmpeg is given: integer codes, with α behind them or not, or floats past 0 and 1, `half`: those that a half
 * float holds exactly.
 */
export type Samples = '16 bit' | '12 bit' | '10 bit' | 'float' | 'half' | `${'16 bit' | 'float' | 'half'}, alpha`;
export const withAlpha = (samples: Samples): boolean => samples.endsWith(', alpha');
interface AnyPictureOutput extends Output {
  what: 'picture';
  /** The encoding its code values are in; the picture is converted to it before it is encoded. */
  encodingOf: (shot: Encoding) => Encoding;
  samples: Samples;
  /** The samples that it is given come back from its file to the last bit. */
  isExact: boolean;
}
/** A preset of pictures, written by ffmpeg. */
export interface PictureOutput extends AnyPictureOutput {
  /** Where it writes inside the delivery's folder: a file, or a printf pattern of numbered ones. */
  path: (folder: string, fileName: string) => string;
  /** ffmpeg's arguments from raw planar RGB on standard input to the output. */
  args: (media: Outgoing, encoding: Encoding, output: string) => string[];
  /** What a file says of its colour, where ffmpeg does not say it: the same file, saying it. */
  inEncoding?: (file: Buffer, encoding: Encoding) => Buffer;
  /** An ffmpeg filter by which its small pictures are fit to be looked at; left out: they are. */
  stillFilter?: string;
}
/** A preset of pictures that ffmpeg does not write. */
export interface OwnOutput extends AnyPictureOutput {
  packing: PicturePacking;
  open: (job: SinkJob) => Promise<FrameSink>;
}
/** A preset of the mattes of a shot's pieces. */
export interface MatteOutput extends Output {
  what: 'mattes';
  framesIn: (folder: string) => string;
  packing: (pieces: readonly string[], media: Media) => MattePacking;
  open: (job: SinkJob, framesIn: string) => Promise<FrameSink>;
}
/** How a preset is written. */
export type PresetOutput = PictureOutput | OwnOutput | MatteOutput;

/** ffmpeg's names of them. */
export const PIXELS: Record<Samples, string> = {
  '16 bit': 'gbrp16le',
  '16 bit, alpha': 'gbrap16le',
  '12 bit': 'gbrp12le',
  '10 bit': 'gbrp10le',
  float: 'gbrpf32le',
  'float, alpha': 'gbrapf32le',
  half: 'gbrpf32le',
  'half, alpha': 'gbrapf32le',
};
const rawOf = (pixels: string, { width, height, fps }: Media): string[] => [
  ...words('-f rawvideo -pix_fmt'),
  pixels,
  '-video_size',
  `${width}x${height}`,
  '-framerate',
  `${fps.num}/${fps.den}`,
  ...words('-i pipe:0'),
];
/** The raw frames on standard input: RGB, and grey of 16 bits. */
export const rawInput = (media: Media, samples: Samples = '16 bit'): string[] => rawOf(PIXELS[samples], media);
export const rawGrey = (media: Media): string[] => rawOf('gray16le', media);

/** The second input and what becomes of it: every sound there is, in a codec of ffmpeg's. */
export const soundArgs = ({ sound }: Outgoing, codec: string): { input: string[]; output: string[] } => ({
  input: sound,
  output: sound.length > 0 ? words(`-map 0:v -map 1:a? -c:a ${codec}`) : [],
});

/** A filter that says that pixels are not square; none where they are. */
export const aspectFilters = ({ pixelAspect: { num, den } }: Media): string[] =>
  num === den ? [] : [`setsar=${num}/${den}`];
/** Filters that say which field of the frames comes first, where they are of two, and how wide pixels are. */
export const shapeFilters = (media: Media): string[] => {
  const { fields, isDeinterlaced } = media;
  const isOfFields = fields !== 'progressive' && !isDeinterlaced;
  return [...(isOfFields ? [`setfield=${fields === 'top first' ? 'tff' : 'bff'}`] : []), ...aspectFilters(media)];
};
/** The same as arguments: of an output that is filtered by nothing else. */
export const shapeArgs = (filters: readonly string[]): string[] =>
  filters.length > 0 ? ['-vf', filters.join(',')] : [];

/** Full-range RGB of an encoding, said so that players and other programs read it as it is meant. */
export const rgbTags = (encoding: Encoding): string[] => {
  const { primaries, transfer } = ENCODINGS[encoding].tags;
  return [...words('-color_range pc -colorspace rgb -color_primaries'), primaries, '-color_trc', transfer];
};
