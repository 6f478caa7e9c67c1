// A table as a file of the Common LUT Format, version 3 (AMPAS S-2014-006, SMPTE ST 2136-1).
import type { Cube } from './cube.ts';

/** XML 1.0 knows no control characters but three. */
const escaped = (text: string): string =>
  text
    .replaceAll(/[^\P{Cc}\t\n\r]/gu, ' ')
    .replaceAll('&', '&amp;')
    .replaceAll('<', '&lt;')
    .replaceAll('>', '&gt;')
    .replaceAll('"', '&quot;');

/**
 * The text of a 3-D table over codes 0..1 as one LUT3D in floats, interpolated in tetrahedra. `id` names the process
 * for good. In it blue runs fastest. Throws RangeError for a table of another kind or domain.
 */
export function clfText({ title, kind, size, domain, values }: Cube, id: string): string {
  if (kind !== '3D' || [...domain.min, ...domain.max].join() !== '0,0,0,1,1,1')
    throw new RangeError('a LUT3D is a 3-D table over codes from 0 to 1');
  const lines: string[] = [];
  for (let r = 0; r < size; r++)
    for (let g = 0; g < size; g++)
      for (let b = 0; b < size; b++) {
        const at = 3 * (r + size * (g + size * b));
        lines.push([values[at]!, values[at + 1]!, values[at + 2]!].map((v) => v.toFixed(6)).join(' '));
      }
  return `<?xml version="1.0" encoding="UTF-8"?>
<ProcessList id="${escaped(id)}" name="${escaped(title)}" compCLFversion="3.0">
  <LUT3D id="table" inBitDepth="32f" outBitDepth="32f" interpolation="tetrahedral">
    <Array dim="${size} ${size} ${size} 3">
${lines.join('\n')}
    </Array>
  </LUT3D>
</ProcessList>
`;
}
