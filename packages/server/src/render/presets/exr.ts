import { lightSequence } from './sequence.ts';

/** One OpenEXR a frame, ZIP in blocks of 16 lines; half or whole floats. */
export const exrHalf = lightSequence({
  extension: 'exr',
  samples: 'half',
  codec: 'exr -format half -compression zip16',
});
export const exrFloat = lightSequence({
  extension: 'exr',
  samples: 'float',
  codec: 'exr -format float -compression zip16',
});
