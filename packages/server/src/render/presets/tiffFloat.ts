import { tiffFloats } from '../sinks/tiffFloats.ts';
import { framesIn } from './framesIn.ts';
import type { OwnOutput } from './output.ts';

/** One TIFF 6.0 a frame, 32-bit floats of the shot's own encoding: what lies past 0 and 1 is kept. */
export const tiffFloat: OwnOutput = {
  what: 'picture',
  samples: 'float',
  isExact: true,
  encodingOf: (shot) => shot,
  framesIn,
  packing: { as: 'tiff' },
  open: tiffFloats,
};
