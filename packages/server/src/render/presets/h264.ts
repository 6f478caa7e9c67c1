import { join } from 'node:path';
import type { Media } from '@mellow/contract';
import { rawInput, type PresetOutput } from './output.ts';
import { words } from '../../media/words.ts';

/** 4:2:0 wants even sizes: the last column or row is repeated. */
const evenly = ({ width, height }: Media): string =>
  width % 2 || height % 2 ? 'pad=ceil(iw/2)*2:ceil(ih/2)*2:0:0,fillborders=right=1:mode=smear,' : '';

/** What every player shows alike: BT.709, limited range, whatever the shot's own encoding is. For looking at. */
export const h264: PresetOutput = {
  encodingOf: () => 'rec709',
  framesIn: undefined,
  path: join,
  args: (media, _encoding, output) => {
    const same = 'primariesin=709:primaries=709:transferin=709:transfer=709';
    const convert = `zscale=matrixin=gbr:rangein=full:matrix=709:range=limited:${same},format=yuv420p`;
    return [
      ...rawInput(media),
      '-vf',
      `${evenly(media)}setparams=range=pc:colorspace=gbr,${convert}`,
      ...words('-c:v libx264 -preset medium -crf 16'),
      ...words('-color_range tv -colorspace bt709 -color_primaries bt709 -color_trc bt709'),
      ...(media.timecode ? ['-timecode', media.timecode] : []),
      ...words('-movflags +faststart -f mp4'),
      output,
    ];
  },
};
