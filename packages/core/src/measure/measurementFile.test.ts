// Measurement files: their tables, and spectra integrated as CIE 15 has it.
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { ciede2000 } from '../colour/ciede2000.ts';
import { labFromHex } from '../colour/hex.ts';
import { whiteOfSpectrum, xyzOfSpectrum } from '../colour/spectrum.ts';
import { readMeasurementFile, UnreadableMeasurement } from './measurementFile.ts';

/** Rows of the ColorChecker 24 after Gretag Macbeth's reference, as Debian's `argyll-ref` carries it (Lab, D50). */
const CHECKER = `IT8.7/2
ORIGINATOR "Graeme Gill, ArgyllCMS from Gretag Macbeth reference"
DESCRIPTOR "ColorChecker 24"

NUMBER_OF_FIELDS 4
BEGIN_DATA_FORMAT
SAMPLE_ID LAB_L LAB_A LAB_B
END_DATA_FORMAT

NUMBER_OF_SETS 3
BEGIN_DATA
A01 37.99   13.56   14.06
A02 65.71   18.13   17.81
A03 49.93   -4.88   -21.93
END_DATA
`;
const bands = Array.from({ length: 36 }, (_, k) => 380 + 10 * k);
const spectral = (rows: Record<string, (nm: number) => number>, more = '', field = 'SPECTRAL_NM') =>
  [
    'CGATS.17',
    more,
    'BEGIN_DATA_FORMAT',
    `SAMPLE_NAME ${bands.map((b) => `${field}${b}`).join(' ')}`,
    'END_DATA_FORMAT',
    'BEGIN_DATA',
    ...Object.entries(rows).map(([name, of]) => `"${name}" ${bands.map((b) => of(b).toFixed(4)).join(' ')}`),
    'END_DATA',
  ].join('\r\n');

describe('a measurement file', () => {
  it('of Lab is read as it stands', () => {
    expect(readMeasurementFile(CHECKER)).toEqual([
      { name: 'A01', lab: { L: 37.99, a: 13.56, b: 14.06 }, illuminant: 'D50' },
      { name: 'A02', lab: { L: 65.71, a: 18.13, b: 17.81 }, illuminant: 'D50' },
      { name: 'A03', lab: { L: 49.93, a: -4.88, b: -21.93 }, illuminant: 'D50' },
    ]);
  });
  it('of XYZ is read for its white: D50 is 96.42, 100, 82.49 (ICC.1)', () => {
    const head = 'CGATS.17\nBEGIN_DATA_FORMAT\nXYZ_X XYZ_Y XYZ_Z\nEND_DATA_FORMAT\n';
    const file = `${head}BEGIN_DATA\n96.42 100 82.49 # white\n48.21 50 41.245\nEND_DATA`;
    const [white, grey] = readMeasurementFile(file);
    expect([white!.name, grey!.name]).toEqual(['Sample 1', 'Sample 2']);
    expect([white!.lab.L, white!.lab.a, white!.lab.b].map((v) => +v.toFixed(1) + 0)).toEqual([100, 0, 0]);
    // L* of Y = 50 is 76.07 (CIE 15:2018, 8.2.1)
    expect(grey!.lab.L).toBeCloseTo(76.07, 2);
  });
  it('of spectra is integrated under the light it states, whatever its fields are called, per cent too', () => {
    const even = { 'grey card': () => 0.5 };
    for (const file of [
      spectral(even),
      spectral(even, '', 'SPEC_'),
      spectral(even, '', 'nm'),
      spectral({ 'grey card': () => 50 }),
      spectral(even, 'KEYWORD "X"\r\nILLUMINANT "D65"'),
    ]) {
      const [sample] = readMeasurementFile(file);
      expect([sample!.name, sample!.illuminant]).toEqual(['grey card', file.includes('D65') ? 'D65' : 'D50']);
      expect([sample!.lab.L, sample!.lab.a, sample!.lab.b]).toEqual([
        expect.closeTo(76.07, 2),
        expect.closeTo(0, 6),
        expect.closeTo(0, 6),
      ]);
    }
    const [red] = readMeasurementFile(spectral({ red: (nm) => (nm > 600 ? 0.8 : 0.05) }));
    expect([red!.lab.a > 50, red!.lab.b > 20]).toEqual([true, true]);
  });
  it('that weighs more than once is read for its illuminant, whatever else it weighs by', () => {
    const text = readFileSync(join(import.meta.dirname, '../../../../demo/swatches/tarn-and-thistle.txt'), 'utf8');
    const samples = readMeasurementFile(text);
    expect(samples.map((s) => s.illuminant)).toEqual(Array.from({ length: 6 }, () => 'D65'));
    // made from these by the simulated reader, whose noise is 0.1 %
    const marigold = samples.find((s) => s.name === 'Marigold')!;
    expect(ciede2000(marigold.lab, labFromHex('#d99a2b')!)).toBeLessThan(0.1);
  });
  it('that cannot be read says what is wrong, and where', () => {
    const refusal = (text: string) => {
      try {
        return readMeasurementFile(text);
      } catch (error) {
        expect(error).toBeInstanceOf(UnreadableMeasurement);
        return (error as Error).message;
      }
    };
    expect(refusal('hello')).toContain('no CGATS.17 file');
    expect(refusal(CHECKER.replace(/A0[123].*\n/g, ''))).toContain('no samples');
    expect(refusal(CHECKER.replace('18.13', 'many'))).toBe('Line 13: LAB_A is no number.');
    expect(refusal(CHECKER.replace('18.13   ', ''))).toBe('Line 13 has 3 values where 4 are due.');
    expect(refusal(CHECKER.replace('LAB_L LAB_A LAB_B', 'RGB_R RGB_G RGB_B'))).toContain('neither spectra nor XYZ');
  });
});

describe('a spectrum', () => {
  it('of the perfect diffuser has the illuminant’s white: CIE 15:2018, Table 3', () => {
    const near = (xyz: readonly number[], wanted: number[]) =>
      xyz.forEach((v, i) => expect(Math.abs(100 * v - wanted[i]!)).toBeLessThan(0.03));
    near(whiteOfSpectrum('D65'), [95.04, 100, 108.88]);
    near(whiteOfSpectrum('D50'), [96.42, 100, 82.51]);
  });
  it('is read between its wavelengths, and beyond them as at its ends', () => {
    const ramp = { nm: [400, 700], reflectance: [0.1, 0.7] };
    const fine = { nm: [380, 400, 550, 700, 780], reflectance: [0.1, 0.1, 0.4, 0.7, 0.7] };
    xyzOfSpectrum(ramp, 'D65').forEach((v, i) => expect(v).toBeCloseTo(xyzOfSpectrum(fine, 'D65')[i]!, 9));
  });
  it('of one wavelength lies at that place of the spectral locus: 560 nm is x 0.3731, y 0.6245 (CIE 15)', () => {
    const [X, Y, Z] = xyzOfSpectrum({ nm: [555, 560, 565], reflectance: [0, 1, 0] }, 'D65');
    expect(X / (X + Y + Z)).toBeCloseTo(0.3731, 3);
    expect(Y / (X + Y + Z)).toBeCloseTo(0.6245, 3);
  });
});
