import type { Media } from '@mellow/contract';
import { matroska } from './matroska.ts';

/** The encoder wants more slices of larger pictures: over 4K it refuses four. */
const slicesOf = ({ width, height }: Media): number => (width * height > 4096 * 2160 ? 16 : 4);

/** FFV1 version 3 (RFC 9043), every frame by itself and with checksums. */
export const ffv1 = matroska((media) => `ffv1 -level 3 -g 1 -slicecrc 1 -slices ${slicesOf(media)}`);
