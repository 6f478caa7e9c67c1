// What each preset is, in words: apart from the schemas, which every page loads before its first picture.
import { nameAfter, type NameWords } from './naming.ts';
import type { Preset } from './work.ts';

/** What presets are for, in the order they are offered. */
export const PRESET_GROUPS = ['One file a frame', 'One file a shot', 'For review', 'Mattes'] as const;
interface PresetWords {
  group: (typeof PRESET_GROUPS)[number];
  label: string;
  detail: string;
  extension: string;
  /** The smallest picture that it takes. */
  least?: { width: number; height: number };
}
/** What is written: every preset states all it does. */
export const PRESETS = {
  png16: {
    group: 'One file a frame',
    label: 'PNG sequence, 16 bit RGB',
    detail: 'One lossless PNG a frame, the shot’s own encoding, downloaded as a zip.',
    extension: 'zip',
  },
  tiff16: {
    group: 'One file a frame',
    label: 'TIFF sequence, 16 bit RGB',
    detail: 'One lossless TIFF a frame, the shot’s own encoding, downloaded as a zip.',
    extension: 'zip',
  },
  png16Alpha: {
    group: 'One file a frame',
    label: 'PNG sequence, 16 bit RGBA',
    detail: 'As the PNG sequence, with what any piece selects as alpha; colour is not multiplied by it.',
    extension: 'zip',
  },
  tiff16Alpha: {
    group: 'One file a frame',
    label: 'TIFF sequence, 16 bit RGBA',
    detail: 'As the TIFF sequence, with what any piece selects as alpha; colour is not multiplied by it.',
    extension: 'zip',
  },
  tiffFloat: {
    group: 'One file a frame',
    label: 'TIFF sequence, float RGB',
    detail:
      'One TIFF a frame of 32-bit floats, the shot’s own encoding, values past 0 and 1 kept, downloaded as a zip.',
    extension: 'zip',
  },
  dpx10: {
    group: 'One file a frame',
    label: 'DPX sequence, 10 bit RGB',
    detail: 'One DPX a frame, the shot’s own encoding, rounded to 10 bits, downloaded as a zip.',
    extension: 'zip',
  },
  dpx12: {
    group: 'One file a frame',
    label: 'DPX sequence, 12 bit RGB',
    detail: 'One DPX a frame, the shot’s own encoding, rounded to 12 bits, downloaded as a zip.',
    extension: 'zip',
  },
  dpx16: {
    group: 'One file a frame',
    label: 'DPX sequence, 16 bit RGB',
    detail: 'One DPX a frame, the shot’s own encoding, downloaded as a zip.',
    extension: 'zip',
  },
  exrHalf: {
    group: 'One file a frame',
    label: 'OpenEXR sequence, half float',
    detail: 'Linear light, BT.709 primaries, values past 0 and 1 kept, ZIP, downloaded as a zip.',
    extension: 'zip',
  },
  exrFloat: {
    group: 'One file a frame',
    label: 'OpenEXR sequence, float',
    detail: 'Linear light, BT.709 primaries, values past 0 and 1 kept, ZIP, downloaded as a zip.',
    extension: 'zip',
  },
  exrHalfAlpha: {
    group: 'One file a frame',
    label: 'OpenEXR sequence, half float RGBA',
    detail: 'As the OpenEXR sequence, with what any piece selects as alpha; colour is not multiplied by it.',
    extension: 'zip',
  },
  exrFloatAlpha: {
    group: 'One file a frame',
    label: 'OpenEXR sequence, float RGBA',
    detail: 'As the OpenEXR sequence, with what any piece selects as alpha; colour is not multiplied by it.',
    extension: 'zip',
  },
  ffv1: {
    group: 'One file a shot',
    label: 'FFV1 in Matroska, 16 bit RGB',
    detail: 'One lossless file, the shot’s own encoding; its sound as PCM, 24 bits.',
    extension: 'mkv',
  },
  jpeg2000: {
    group: 'One file a shot',
    label: 'JPEG 2000 in Matroska, 16 bit RGB',
    detail: 'One lossless file, every frame by itself, the shot’s own encoding; its sound as PCM, 24 bits.',
    extension: 'mkv',
  },
  vc3: {
    group: 'One file a shot',
    label: 'VC-3 movie, 10 bit 4:4:4',
    detail: 'MOV, every frame by itself, BT.709 limited range; its sound as PCM, 24 bits. For editing and finishing.',
    extension: 'mov',
    least: { width: 256, height: 120 },
  },
  h264: {
    group: 'For review',
    label: 'H.264 review file',
    detail: 'MP4, 8 bit 4:2:0, BT.709 limited range, CRF 16; its sound as AAC. For looking at, not for finishing.',
    extension: 'mp4',
  },
  av1: {
    group: 'For review',
    label: 'AV1 review file',
    detail: 'MP4, 10 bit 4:2:0, BT.709 limited range, CRF 18; its sound as AAC. For looking at, not for finishing.',
    extension: 'mp4',
    least: { width: 64, height: 64 },
  },
  mattePng16: {
    group: 'Mattes',
    label: 'Mattes, PNG sequences, 16 bit grey',
    detail: 'A folder a piece, cleaned up as rendered; downloaded as a zip.',
    extension: 'zip',
  },
  matteExr: {
    group: 'Mattes',
    label: 'Mattes, one OpenEXR a frame',
    detail: 'A half-float channel a piece, named after it; downloaded as a zip.',
    extension: 'zip',
  },
} as const satisfies Record<Preset, PresetWords>;

/** The name of a render's file: what is shown before it is what it gets. */
export const renderFileName = (pattern: string, words: NameWords, preset: Preset): string => {
  const { group, extension } = PRESETS[preset];
  return `${nameAfter(pattern.trim(), words)}${group === 'Mattes' ? '_mattes' : ''}.${extension}`;
};
