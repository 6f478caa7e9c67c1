import { plainName, type Preset } from '@mellow/contract';
import { av1 } from './presets/av1.ts';
import { dpx10, dpx12, dpx16 } from './presets/dpx.ts';
import { exrFloat, exrFloatAlpha, exrHalf, exrHalfAlpha } from './presets/exr.ts';
import { ffv1 } from './presets/ffv1.ts';
import { h264 } from './presets/h264.ts';
import { jpeg2000 } from './presets/jpeg2000.ts';
import { matteExr, mattePng16 } from './presets/mattes.ts';
import type { PresetOutput } from './presets/output.ts';
import { png16, png16Alpha } from './presets/png16.ts';
import { tiff16, tiff16Alpha } from './presets/tiff16.ts';
import { tiffFloat } from './presets/tiffFloat.ts';
import { vc3 } from './presets/vc3.ts';

/** How each preset is written: adding one is its own file, its line here and its words in the contract. */
export const OUTPUTS: Record<Preset, PresetOutput> = {
  png16,
  tiff16,
  png16Alpha,
  tiff16Alpha,
  tiffFloat,
  dpx10,
  dpx12,
  dpx16,
  exrHalf,
  exrFloat,
  exrHalfAlpha,
  exrFloatAlpha,
  ffv1,
  jpeg2000,
  vc3,
  h264,
  av1,
  mattePng16,
  matteExr,
};

/** Names for files of several pieces: those that would be alike are numbered. */
export function pieceFileNames(names: readonly string[]): string[] {
  const given: string[] = [];
  for (const name of names.map(plainName)) {
    let free = name;
    for (let n = 2; given.includes(free); n++) free = `${name}-${n}`;
    given.push(free);
  }
  return given;
}
