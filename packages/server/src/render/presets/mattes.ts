import { exrMattes } from '../sinks/exrMattes.ts';
import { greyMattes } from '../sinks/greyMattes.ts';
import type { MatteOutput } from './output.ts';
import { framesIn } from './framesIn.ts';

export const mattePng16: MatteOutput = {
  what: 'mattes',
  framesIn,
  packing: () => ({ as: 'grey' }),
  open: greyMattes,
};
export const matteExr: MatteOutput = {
  what: 'mattes',
  framesIn,
  packing: (pieces, { pixelAspect }) => ({ as: 'exr', pieces, pixelAspect: pixelAspect.num / pixelAspect.den }),
  open: exrMattes,
};
