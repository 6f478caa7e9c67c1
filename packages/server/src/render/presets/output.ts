import type { Media } from '@mellow/contract';
import { ENCODINGS, type Encoding } from '@mellow/core';
import { words } from '../../media/words.ts';

/** How a preset is written. */
export interface PresetOutput {
  /** The encoding its code values are in; the picture is converted to it before it is encoded. */
  encodingOf: (shot: Encoding) => Encoding;
  /** Where it writes inside the delivery's folder: a file, or a printf pattern of numbered ones. */
  path: (folder: string, fileName: string) => string;
  /** The delivery's folder of numbered files, sent as a zip; undefined for a single file. */
  framesIn: ((folder: string) => string) | undefined;
  /** ffmpeg's arguments from raw 16-bit planar RGB on standard input to the output. */
  args: (media: Media, encoding: Encoding, output: string) => string[];
}

/** The raw frames on standard input. */
export const rawInput = ({ width, height, fps }: Media): string[] => [
  ...words('-f rawvideo -pix_fmt gbrp16le -video_size'),
  `${width}x${height}`,
  '-framerate',
  `${fps.num}/${fps.den}`,
  ...words('-i pipe:0'),
];

/** Full-range RGB of an encoding, said so that players and other programs read it as it is meant. */
export const rgbTags = (encoding: Encoding): string[] => {
  const { primaries, transfer } = ENCODINGS[encoding].tags;
  return [...words('-color_range pc -colorspace rgb -color_primaries'), primaries, '-color_trc', transfer];
};
