import { PRESETS, type Preset } from '@mellow/contract';
import { ffv1 } from './presets/ffv1.ts';
import { h264 } from './presets/h264.ts';
import type { PresetOutput } from './presets/output.ts';
import { png16 } from './presets/png16.ts';

/** How each preset is written: adding one is its own file, its line here and its words in the contract. */
export const OUTPUTS = { png16, ffv1, h264 } as const satisfies Record<Preset, PresetOutput>;

/** Letters that a name may have at the most: several names and a frame number make one file name. */
const MOST_LETTERS = 80;
/** A name for files: letters, digits, dots and dashes of the given words. */
const slug = (...names: string[]): string => names.map(plain).join('_');
function plain(name: string): string {
  const ascii = name
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .replace(/[^\w.-]+/g, '-');
  return ascii.replace(/^[-.]+|-+$/g, '').slice(0, MOST_LETTERS) || 'untitled';
}

export const deliveryFileName = (shot: string, colourway: string, preset: Preset): string =>
  `${slug(shot, colourway)}.${PRESETS[preset].extension}`;
