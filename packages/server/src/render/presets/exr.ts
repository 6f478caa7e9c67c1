import { lightSequence } from './sequence.ts';

const exr = (samples: `${'half' | 'float'}${'' | ', alpha'}`) =>
  lightSequence({
    extension: 'exr',
    samples,
    codec: `exr -format ${samples.startsWith('half') ? 'half' : 'float'} -compression zip16`,
  });
/** One OpenEXR a frame, ZIP in blocks of 16 lines; half or whole floats. */
export const exrHalf = exr('half');
export const exrFloat = exr('float');
/** The same with α beside colour that is not multiplied by it. */
export const exrHalfAlpha = exr('half, alpha');
export const exrFloatAlpha = exr('float, alpha');
