import { join } from 'node:path';
import { words } from '../../media/words.ts';
import { framesIn } from './framesIn.ts';
import { aspectFilters, rawInput, shapeArgs, type PictureOutput, type Samples } from './output.ts';

interface Sequence {
  extension: string;
  /** ffmpeg's arguments for the files themselves. */
  codec: string;
  samples: Samples;
}
const sequence = ({ extension, codec, samples }: Sequence, encodingOf: PictureOutput['encodingOf']): PictureOutput => ({
  what: 'picture',
  samples,
  // half floats close to 0 are rounded more coarsely than they are given
  isExact: !samples.startsWith('half'),
  encodingOf,
  framesIn,
  path: (folder, fileName) => join(framesIn(folder), `${fileName.replace(/\.zip$/, '')}.%06d.${extension}`),
  args: (media, _encoding, output) => [
    ...rawInput(media, samples),
    ...shapeArgs(aspectFilters(media)),
    ...words(`-f image2 -start_number ${media.firstFrame} -c:v ${codec}`),
    output,
  ],
});

/** One file a frame of integer codes, in the shot's own encoding. */
export const codeSequence = (files: Sequence): PictureOutput => sequence(files, (shot) => shot);

/** One file a frame of linear light, BT.709 primaries; what lies past 0 and 1 is kept. */
export const lightSequence = (files: Sequence): PictureOutput => ({
  ...sequence(files, () => 'linear709'),
  stillFilter:
    'zscale=transferin=linear:transfer=iec61966-2-1:primariesin=709:primaries=709:matrixin=gbr:matrix=gbr:' +
    'rangein=full:range=full,format=gbrp16le',
});
