import { join } from 'node:path';
import { PRESETS, type Media, type Preset } from '@mellow/contract';

/** A name for files: letters, digits, dots and dashes of the given words. */
export const slug = (...words: string[]): string =>
  words
    .map(
      (w) =>
        w
          .normalize('NFKD')
          .replace(/[^\w.-]+/g, '-')
          .replace(/^[-.]+|-+$/g, '') || 'untitled',
    )
    .join('_');
export const deliveryFileName = (shot: string, colourway: string, preset: Preset): string =>
  `${slug(shot, colourway)}.${PRESETS[preset].extension}`;

/** Where a preset writes inside its delivery folder: a file, or a folder of frames. */
export const outputPath = (folder: string, fileName: string, preset: Preset): string =>
  preset === 'png16' ? join(folder, 'frames', `${fileName.replace(/\.zip$/, '')}.%06d.png`) : join(folder, fileName);

const TRANSFER_TAG = { srgb: 'iec61966-2-1', rec709: 'bt709', linear709: 'linear' } as const;

/** ffmpeg arguments that turn raw 16-bit planar RGB on standard input into the preset's output. */
export function encoderArgs(
  media: Media,
  encoding: keyof typeof TRANSFER_TAG,
  preset: Preset,
  output: string,
): string[] {
  const rgbTags = [
    '-color_range',
    'pc',
    '-colorspace',
    'rgb',
    '-color_primaries',
    'bt709',
    '-color_trc',
    TRANSFER_TAG[encoding],
  ];
  const timecode = media.timecode ? ['-metadata', `timecode=${media.timecode}`] : [];
  const input = [
    '-f',
    'rawvideo',
    '-pix_fmt',
    'gbrp16le',
    '-video_size',
    `${media.width}x${media.height}`,
    '-framerate',
    `${media.fps.num}/${media.fps.den}`,
    '-i',
    'pipe:0',
  ];
  if (preset === 'png16')
    return [
      ...input,
      '-f',
      'image2',
      '-start_number',
      '0',
      '-c:v',
      'png',
      '-pix_fmt',
      'rgb48be',
      '-pred',
      'up',
      '-compression_level',
      '3',
      output,
    ];
  if (preset === 'ffv1')
    return [
      ...input,
      '-c:v',
      'ffv1',
      '-level',
      '3',
      '-g',
      '1',
      '-slicecrc',
      '1',
      '-slices',
      '4',
      ...rgbTags,
      ...timecode,
      '-f',
      'matroska',
      output,
    ];
  // 4:2:0 wants even sizes: repeat the last column or row
  const even =
    media.width % 2 || media.height % 2 ? 'pad=ceil(iw/2)*2:ceil(ih/2)*2:0:0,fillborders=right=1:mode=smear,' : '';
  const same = 'primariesin=709:primaries=709:transferin=709:transfer=709';
  return [
    ...input,
    '-vf',
    `${even}setparams=range=pc:colorspace=gbr,zscale=matrixin=gbr:rangein=full:matrix=709:range=limited:${same},format=yuv420p`,
    '-c:v',
    'libx264',
    '-preset',
    'medium',
    '-crf',
    '16',
    '-color_range',
    'tv',
    '-colorspace',
    'bt709',
    '-color_primaries',
    'bt709',
    '-color_trc',
    'bt709',
    ...(media.timecode ? ['-timecode', media.timecode] : []),
    '-movflags',
    '+faststart',
    '-f',
    'mp4',
    output,
  ];
}
