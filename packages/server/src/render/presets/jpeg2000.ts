import { matroska } from './matroska.ts';

/** JPEG 2000 (ISO/IEC 15444-1), its reversible transform, every frame by itself. */
export const jpeg2000 = matroska(() => 'libopenjpeg -pix_fmt rgb48le -irreversible 0');
