// A simulated reader of physical swatches: gives each paint of the film the smoothest spectrum that looks like it,
// reads it three times with an instrument's noise, and writes the mean as a CGATS.17 file (ISO 28178), as readers do.
//   npm run demo:swatches
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  labFromHex,
  linear709FromLab,
  seededRandom,
  smoothestReflectance,
  xyzFromLinear709,
  type Spectrum,
} from '../packages/core/src/index.ts';

const PAINTS: [name: string, hex: string][] = [
  ['Marigold', '#d99a2b'],
  ['Plum', '#6d3a66'],
  ['Fern', '#4f8a4b'],
  ['Second dye lot', '#974246'],
  ['Oxblood', '#6a2320'],
  ['Petrol blue', '#2f5a6e'],
];
/** Standard deviation of one reading of reflectance; hand-held instruments repeat within about 0.1 %. */
const NOISE = 0.001;
const READINGS = 3;

/** The mean of some readings of a swatch. */
function read({ nm, reflectance }: Spectrum, random: () => number): Spectrum {
  const normal = () => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
  const mean = (r: number) => {
    let sum = 0;
    for (let k = 0; k < READINGS; k++) sum += Math.max(r + NOISE * normal(), 0);
    return sum / READINGS;
  };
  return { nm, reflectance: reflectance.map(mean) };
}

const random = seededRandom(1978);
const rows = PAINTS.map(([name, hex]) => {
  const xyz = xyzFromLinear709(linear709FromLab(labFromHex(hex)!));
  return { name, ...read(smoothestReflectance(xyz, 'D65'), random) };
});
const text = [
  'CGATS.17',
  'ORIGINATOR "Tarn & Thistle, swatch reader (simulated)"',
  'ILLUMINATION "45/0"',
  'WEIGHTING_FUNCTION "ILLUMINANT, D65"',
  'WEIGHTING_FUNCTION "OBSERVER, 2 degree"',
  `NUMBER_OF_FIELDS ${rows[0]!.nm.length + 1}`,
  'BEGIN_DATA_FORMAT',
  ['SAMPLE_NAME', ...rows[0]!.nm.map((nm) => `SPECTRAL_NM_${nm}`)].join(' '),
  'END_DATA_FORMAT',
  `NUMBER_OF_SETS ${rows.length}`,
  'BEGIN_DATA',
  ...rows.map((row) => [`"${row.name}"`, ...row.reflectance.map((r) => r.toFixed(4))].join(' ')),
  'END_DATA',
  '',
].join('\n');
writeFileSync(join(import.meta.dirname, 'swatches/tarn-and-thistle.txt'), text);
