import { matroska } from './matroska.ts';

/** FFV1 version 3 (RFC 9043), every frame by itself and with checksums. */
export const ffv1 = matroska('ffv1 -level 3 -g 1 -slicecrc 1 -slices 4');
