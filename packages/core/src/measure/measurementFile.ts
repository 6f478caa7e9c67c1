import { labFromXyz, type Lab } from '../colour/lab.ts';
import { whiteOfSpectrum, xyzOfSpectrum, type Spectrum } from '../colour/spectrum.ts';
import { WHITE_XYZ, type Illuminant } from '../colour/whitePoint.ts';

/** A sample measured elsewhere. */
export interface MeasuredSample {
  name: string;
  lab: Lab;
  illuminant: Illuminant;
}
/** A measurement file that cannot be read: what is wrong, and on which line where that is known. */
export class UnreadableMeasurement extends Error {}

interface Table {
  fields: string[];
  rows: { line: number; values: string[] }[];
  /** Some may come more than once: WEIGHTING_FUNCTION for the illuminant and again for the observer. */
  keywords: [name: string, value: string][];
}
const SPECTRAL = /^(?:SPECTRAL_NM_?|SPECTRAL_|SPEC_|NM_?|R_)(\d{3})$/;

/** Words of a line; quoted ones may hold spaces; after # comes a remark. */
function wordsOf(line: string): string[] {
  return [...line.matchAll(/"((?:[^"]|"")*)"|(#.*)|(\S+)/g)].flatMap(([, quoted, remark, plain]) =>
    remark === undefined ? [quoted ?? plain ?? ''] : [],
  );
}

function tableOf(text: string): Table {
  const table: Table = { fields: [], rows: [], keywords: [] };
  let part: 'head' | 'format' | 'data' = 'head';
  for (const [k, raw] of text.split(/\r\n|\r|\n/).entries()) {
    const words = wordsOf(raw);
    const [first] = words;
    if (first === undefined) continue;
    if (first === 'BEGIN_DATA_FORMAT') part = 'format';
    else if (first === 'BEGIN_DATA') part = 'data';
    else if (first === 'END_DATA_FORMAT' || first === 'END_DATA') {
      part = 'head';
      // only the first table of a file is read
      if (first === 'END_DATA') break;
    } else if (part === 'format') table.fields.push(...words.map((w) => w.toUpperCase()));
    else if (part === 'data') table.rows.push({ line: k + 1, values: words });
    else table.keywords.push([first.toUpperCase(), words.slice(1).join(' ')]);
  }
  return table;
}

/** The illuminant a file states; D50 where it says none, as ISO 13655 has it. */
function illuminantOf({ keywords }: Table): Illuminant {
  const said = keywords.filter(([key]) => /ILLUMINANT|WEIGHTING_FUNCTION|MEASUREMENT_SOURCE/.test(key));
  return said.some(([, value]) => /D65/i.test(value)) ? 'D65' : 'D50';
}

/**
 * The samples of a measurement file (CGATS.17 text, ISO 28178): spectral reflectance, XYZ or Lab, in this order of
 * preference. Spectra are integrated with the CIE 1931 2° observer under the stated illuminant. Throws
 * UnreadableMeasurement.
 */
export function readMeasurementFile(text: string): MeasuredSample[] {
  const table = tableOf(text);
  const { fields, rows } = table;
  if (fields.length === 0) throw new UnreadableMeasurement('It has no data format: it is no CGATS.17 file.');
  if (rows.length === 0) throw new UnreadableMeasurement('It holds no samples.');
  const illuminant = illuminantOf(table);
  const labOf = readerOf(fields, rows, illuminant);
  const place = fields.findIndex((f) => /^(SAMPLE_?NAME|SAMPLE_?ID|SAMPLE_LOC|PATCH_NAME)$/.test(f));
  const named = fields.indexOf('SAMPLE_NAME') >= 0 ? fields.indexOf('SAMPLE_NAME') : place;
  return rows.map(({ line, values }, k) => {
    if (values.length !== fields.length)
      throw new UnreadableMeasurement(`Line ${line} has ${values.length} values where ${fields.length} are due.`);
    const name = named < 0 ? `Sample ${k + 1}` : values[named]!;
    return { name, lab: labOf(values, line), illuminant };
  });
}

type LabOf = (values: readonly string[], line: number) => Lab;
function readerOf(fields: readonly string[], rows: Table['rows'], illuminant: Illuminant): LabOf {
  const numbersAt = (values: readonly string[], places: readonly number[], line: number): number[] =>
    places.map((p) => {
      const v = Number(values[p]?.replace(',', '.'));
      if (!Number.isFinite(v)) throw new UnreadableMeasurement(`Line ${line}: ${fields[p]} is no number.`);
      return v;
    });
  const placesOf = (...names: string[]) => names.map((n) => fields.indexOf(n));
  const isThere = (places: readonly number[]) => places.every((p) => p >= 0);

  const bands = fields.flatMap((f, place) => {
    const nm = SPECTRAL.exec(f)?.[1];
    return nm === undefined ? [] : [{ nm: Number(nm), place }];
  });
  if (bands.length >= 8) {
    bands.sort((a, b) => a.nm - b.nm);
    const nm = bands.map((b) => b.nm);
    const places = bands.map((b) => b.place);
    // some write per cent
    const most = Math.max(...rows.flatMap((r) => numbersAt(r.values, places, r.line)));
    const unit = most > 2 ? 100 : 1;
    return (values, line) => {
      const reflectance = numbersAt(values, places, line).map((v) => v / unit);
      return labOfSpectrum({ nm, reflectance }, illuminant);
    };
  }
  const xyz = placesOf('XYZ_X', 'XYZ_Y', 'XYZ_Z');
  if (isThere(xyz))
    return (values, line) => {
      const [X, Y, Z] = numbersAt(values, xyz, line).map((v) => v / 100) as [number, number, number];
      return labFromXyz([X, Y, Z], illuminant);
    };
  const lab = placesOf('LAB_L', 'LAB_A', 'LAB_B');
  if (isThere(lab))
    return (values, line) => {
      const [L, a, b] = numbersAt(values, lab, line) as [number, number, number];
      return { L, a, b };
    };
  throw new UnreadableMeasurement('It holds neither spectra nor XYZ nor Lab.');
}

/**
 * Lab of a spectrum under an illuminant; white is the perfect diffuser's, whose last digits differ from the standard's.
 */
function labOfSpectrum(spectrum: Spectrum, illuminant: Illuminant): Lab {
  const own = xyzOfSpectrum(spectrum, illuminant);
  const white = whiteOfSpectrum(illuminant);
  const standard = WHITE_XYZ[illuminant];
  return labFromXyz([0, 1, 2].map((c) => (own[c]! / white[c]!) * standard[c]!) as [number, number, number], illuminant);
}
