import { join } from 'node:path';
import type { Media } from '@mellow/contract';
import { words } from '../../media/words.ts';
import { burnInFilters } from '../burnIn.ts';
import { aspectFilters, rawInput, soundArgs, type PictureOutput } from './output.ts';

/** 4:2:0 wants even sizes: the last column or row is repeated. */
const evenly = ({ width, height }: Media): string =>
  width % 2 || height % 2 ? 'pad=ceil(iw/2)*2:ceil(ih/2)*2:0:0,fillborders=right=1:mode=smear,' : '';

interface Movie {
  /** ffmpeg's name of the samples: of YCbCr. */
  pixels: string;
  codec: string;
  container: string;
  /** ffmpeg's codec of the sound. */
  sound: string;
  isSubsampled: boolean;
}
/** One file of YCbCr, BT.709 limited range, whatever the shot's encoding is, with the source's timecode and sound. */
export const movie709 = ({ pixels, codec, container, sound, isSubsampled }: Movie): PictureOutput => ({
  what: 'picture',
  samples: '16 bit',
  isExact: false,
  encodingOf: () => 'rec709',
  framesIn: undefined,
  path: join,
  args: (media, _encoding, output) => {
    const same = 'primariesin=709:primaries=709:transferin=709:transfer=709';
    const convert = `zscale=matrixin=gbr:rangein=full:matrix=709:range=limited:${same},format=${pixels}`;
    const shaped = [convert, ...aspectFilters(media)].join(',');
    const { input, output: heard } = soundArgs(media, sound);
    return [
      ...rawInput(media),
      ...input,
      ...heard,
      '-vf',
      `${isSubsampled ? evenly(media) : ''}setparams=range=pc:colorspace=gbr,${shaped}${burnInFilters(media)}`,
      ...words(`-c:v ${codec}`),
      ...words('-color_range tv -colorspace bt709 -color_primaries bt709 -color_trc bt709'),
      ...(media.timecode ? ['-timecode', media.timecode] : []),
      ...words(container),
      output,
    ];
  },
});
