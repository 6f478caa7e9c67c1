// Reads the Common LUT Format, versions 1 to 3 (AMPAS S-2014-006, SMPTE ST 2136-1).
import { SaxesParser } from 'saxes';
import { finiteHalf, floatFromHalf, GREATEST_HALF } from '../colour/halfFloat.ts';
import type { Cdl } from '../document/look.ts';
import type { BelowZero, Clf, ClfStep, LogCurve, PerChannel } from './clfSteps.ts';
import { CubeError, numbersOf } from './cube.ts';

interface Element {
  name: string;
  line: number;
  attributes: Readonly<Record<string, string>>;
  children: Element[];
  text: string;
}
/** Deeper than the format ever is. */
const MOST_DEPTH = 16;
const MOST_STEPS = 64;

/** The elements of an XML text. Throws CubeError with the line where it is not well-formed. */
function parsed(text: string): Element {
  const parser = new SaxesParser();
  const root: Element = { name: '', line: 0, attributes: {}, children: [], text: '' };
  const open = [root];
  parser.on('error', (error) => {
    throw new CubeError(parser.line, error.message.replace(/^\d+:\d+: /, ''));
  });
  parser.on('opentag', ({ name, attributes }) => {
    if (open.length > MOST_DEPTH) throw new CubeError(parser.line, 'elements are nested too deep.');
    const element: Element = { name, line: parser.line, attributes, children: [], text: '' };
    open.at(-1)!.children.push(element);
    open.push(element);
  });
  parser.on('closetag', () => void open.pop());
  parser.on('text', (said) => (open.at(-1)!.text += said));
  parser.write(text).close();
  return root.children[0]!;
}

const childOf = (element: Element, name: string): Element | undefined => element.children.find((c) => c.name === name);
function needed(element: Element, name: string): Element {
  const child = childOf(element, name);
  if (!child) throw new CubeError(element.line, `${element.name} has no ${name}.`);
  return child;
}
const wordsIn = ({ text }: Element): string[] => text.split(/\s+/).filter((word) => word !== '');
const numbersIn = (element: Element, count: number): number[] =>
  numbersOf(wordsIn(element), element.line, count, element.name);
function attributeOf({ name, attributes, line }: Element, key: string): number | undefined {
  const said = attributes[key];
  return said === undefined ? undefined : numbersOf([said], line, 1, `${key} of ${name}`)[0];
}
function choice<T extends string>(element: Element, key: string, choices: Readonly<Record<string, T>>, plain?: T): T {
  const said = element.attributes[key];
  const found = said === undefined ? plain : choices[said];
  if (found === undefined || (said !== undefined && !Object.hasOwn(choices, said)))
    throw new CubeError(element.line, `${key} “${(said ?? '').slice(0, 40)}” of ${element.name} is not known.`);
  return found;
}

/** The full scale of a bit depth. */
const FULL_SCALES: Readonly<Record<string, number>> = {
  '8i': 255,
  '10i': 1023,
  '12i': 4095,
  '16i': 65535,
  '16f': 1,
  '32f': 1,
};
function scaleOf({ name, attributes, line }: Element, key: 'inBitDepth' | 'outBitDepth'): number {
  const said = attributes[key] ?? '';
  const scale = Object.hasOwn(FULL_SCALES, said) ? FULL_SCALES[said] : undefined;
  if (scale === undefined) throw new CubeError(line, `${key} “${said.slice(0, 40)}” of ${name} is not known.`);
  return scale;
}

function dimensionsOf(array: Element): number[] {
  const sizes = (array.attributes.dim ?? '').trim().split(/\s+/).map(Number);
  if (!sizes.every((n) => Number.isInteger(n) && n >= 1 && n <= 65536))
    throw new CubeError(array.line, `dim “${(array.attributes.dim ?? '').slice(0, 40)}” is not known.`);
  return sizes;
}
const UNIT = { min: [0, 0, 0], max: [1, 1, 1] } satisfies { min: number[]; max: number[] };
const unit = (): { min: [number, number, number]; max: [number, number, number] } => structuredClone(UNIT) as never;

const HALFS = 65536;
function lut1d(element: Element): ClfStep {
  const isOf = (key: 'halfDomain' | 'rawHalfs') => choice(element, key, { true: 'yes', false: 'no' }, 'no') === 'yes';
  if (childOf(element, 'IndexMap')) throw new CubeError(element.line, 'an IndexMap is not read.');
  choice(element, 'interpolation', { linear: 'linear' }, 'linear');
  const array = needed(element, 'Array');
  const [size = 0, channels = 1] = dimensionsOf(array);
  if (size < 2 || (channels !== 1 && channels !== 3))
    throw new CubeError(array.line, 'the Array of a LUT1D has two entries or more, of one channel or three.');
  const overHalfs = isOf('halfDomain');
  if (overHalfs && size !== HALFS)
    throw new CubeError(array.line, `the Array of a LUT1D with halfDomain has ${HALFS} entries, not ${size}.`);
  const words = overHalfs ? wordsIn(array).map(finiteWord) : wordsIn(array);
  const entries = numbersOf(words, array.line, size * channels, array.name);
  const value = isOf('rawHalfs') ? fromHalfsIn(array) : scaledBy(1 / scaleOf(element, 'outBitDepth'));
  const values = new Float32Array(3 * size);
  for (let i = 0; i < values.length; i++) values[i] = value(entries[channels === 3 ? i : Math.floor(i / 3)]!);
  if (overHalfs) return { op: 'halfTable', values };
  return { op: 'table', table: { title: '', kind: '1D', size, domain: unit(), values } };
}
const scaledBy = (factor: number) => (entry: number) => entry * factor;
/** What stands past all numbers has entries too. */
const finiteWord = (word: string): string =>
  word.replace(/^(?<sign>[+-]?)inf(inity)?$/i, `$<sign>${GREATEST_HALF}`).replace(/^[+-]?nan$/i, '0');
/** Entries that are the bits of half floats, written as whole numbers. */
const fromHalfsIn = (array: Element) => (entry: number) => {
  if (!Number.isInteger(entry) || entry < 0 || entry >= HALFS)
    throw new CubeError(
      array.line,
      `an entry of a LUT1D with rawHalfs is a whole number under ${HALFS}, not ${entry}.`,
    );
  return finiteHalf(floatFromHalf(entry));
};

function lut3d(element: Element): ClfStep {
  if (element.attributes.rawHalfs === 'true') throw new CubeError(element.line, 'a LUT3D with rawHalfs is not read.');
  // where none is stated, as OpenColorIO 2 has it
  const how = choice(element, 'interpolation', { trilinear: 'trilinear', tetrahedral: 'tetrahedral' }, 'tetrahedral');
  const array = needed(element, 'Array');
  const [size = 0, ...others] = dimensionsOf(array);
  if (size < 2 || size > 256 || others.join(' ') !== `${size} ${size} 3`)
    throw new CubeError(array.line, 'the Array of a LUT3D is as large on every side, 2 to 256, of three channels.');
  const entries = numbersIn(array, 3 * size ** 3);
  const scale = scaleOf(element, 'outBitDepth');
  const values = new Float32Array(entries.length);
  let from = 0;
  // blue runs fastest in the file, red in a table of ours
  for (let r = 0; r < size; r++)
    for (let g = 0; g < size; g++)
      for (let b = 0; b < size; b++)
        for (let c = 0; c < 3; c++) values[3 * (r + size * (g + size * b)) + c] = entries[from++]! / scale;
  const isTrilinear = how === 'trilinear';
  return { op: 'table', table: { title: '', kind: '3D', size, domain: unit(), values, isTrilinear } };
}

function matrix(element: Element): ClfStep {
  const array = needed(element, 'Array');
  const [rows, columns = 0] = dimensionsOf(array);
  if (rows !== 3 || (columns !== 3 && columns !== 4))
    throw new CubeError(array.line, 'the Array of a Matrix has three rows of three or four.');
  const numbers = numbersIn(array, 3 * columns);
  const [inScale, outScale] = [scaleOf(element, 'inBitDepth'), scaleOf(element, 'outBitDepth')];
  const row = (r: number) => {
    const at = (c: number) => numbers[r * columns + c]!;
    const offset = columns === 4 ? at(3) / outScale : 0;
    const factor = inScale / outScale;
    return [at(0) * factor, at(1) * factor, at(2) * factor, offset] as const;
  };
  return { op: 'matrix', rows: [row(0), row(1), row(2)] };
}

function range(element: Element): ClfStep {
  const [inScale, outScale] = [scaleOf(element, 'inBitDepth'), scaleOf(element, 'outBitDepth')];
  const clamps = choice(element, 'style', { Clamp: 'yes', noClamp: 'no' }, 'yes') === 'yes';
  const limit = (end: 'min' | 'max') => {
    const [from, to] = [childOf(element, `${end}InValue`), childOf(element, `${end}OutValue`)];
    if (!from !== !to) throw new CubeError(element.line, `${end}InValue and ${end}OutValue come together.`);
    return from && to && { from: numbersIn(from, 1)[0]! / inScale, to: numbersIn(to, 1)[0]! / outScale };
  };
  const [min, max] = [limit('min'), limit('max')];
  if (!min && !max) throw new CubeError(element.line, 'a Range states a least or a greatest value.');
  if (!clamps && !(min && max))
    throw new CubeError(element.line, 'a Range that does not clamp states all four values.');
  if (min && max && !(max.from > min.from)) throw new CubeError(element.line, 'maxInValue must be over minInValue.');
  const slope = min && max ? (max.to - min.to) / (max.from - min.from) : 1;
  const known = (min ?? max)!;
  const offset = known.to - slope * known.from;
  return { op: 'range', slope, offset, ...(clamps && { min: min?.to, max: max?.to }) };
}

/** Parameters of all channels, or of the one that each states. */
function perChannel<T>(element: Element, name: string, read: (params: Element | undefined) => T): PerChannel<T> {
  const all = element.children.filter((c) => c.name === name);
  const of = (channel: string) =>
    read(all.find((p) => p.attributes.channel === channel) ?? all.find((p) => p.attributes.channel === undefined));
  return [of('R'), of('G'), of('B')];
}

const LOG_STYLES = {
  log10: [10, 'linToLog'],
  antiLog10: [10, 'logToLin'],
  log2: [2, 'linToLog'],
  antiLog2: [2, 'logToLin'],
  linToLog: [undefined, 'linToLog'],
  logToLin: [undefined, 'logToLin'],
  cameraLinToLog: [undefined, 'linToLog'],
  cameraLogToLin: [undefined, 'logToLin'],
} as const;
const logNames = Object.fromEntries(Object.keys(LOG_STYLES).map((name) => [name, name]));
function log(element: Element): ClfStep {
  const name = choice(element, 'style', logNames as Record<string, keyof typeof LOG_STYLES>);
  const [base, style] = LOG_STYLES[name];
  const isCamera = name.startsWith('camera');
  const curves = perChannel(element, 'LogParams', (params): LogCurve => {
    const of = (key: keyof LogCurve, plain: number) => (params && attributeOf(params, key)) ?? plain;
    const curve = {
      base: base ?? of('base', 2),
      logSideSlope: base ? 1 : of('logSideSlope', 1),
      logSideOffset: base ? 0 : of('logSideOffset', 0),
      linSideSlope: base ? 1 : of('linSideSlope', 1),
      linSideOffset: base ? 0 : of('linSideOffset', 0),
    };
    if (!(curve.base > 0) || curve.base === 1 || curve.logSideSlope === 0 || curve.linSideSlope === 0)
      throw new CubeError((params ?? element).line, 'this logarithm cannot be taken back.');
    if (!isCamera) return curve;
    const linSideBreak = params && attributeOf(params, 'linSideBreak');
    if (linSideBreak === undefined) throw new CubeError(element.line, `${name} has no linSideBreak.`);
    return { ...curve, linSideBreak, linearSlope: attributeOf(params!, 'linearSlope') };
  });
  return { op: 'log', style, curves };
}

const POWERS: Readonly<Record<string, readonly [BelowZero, isBack: boolean]>> = {
  basicFwd: ['clamped', false],
  basicRev: ['clamped', true],
  basicMirrorFwd: ['mirrored', false],
  basicMirrorRev: ['mirrored', true],
  basicPassThruFwd: ['kept', false],
  basicPassThruRev: ['kept', true],
};
const exponentNames = Object.fromEntries(
  [...Object.keys(POWERS), 'monCurveFwd', 'monCurveRev', 'monCurveMirrorFwd', 'monCurveMirrorRev'].map((n) => [n, n]),
);
function exponent(element: Element): ClfStep {
  const style = choice(element, 'style', exponentNames);
  const curves = perChannel(element, 'ExponentParams', (params) => {
    const of = (key: string, plain: number) => (params && attributeOf(params, key)) ?? plain;
    const curve = { exponent: of('exponent', 1), offset: of('offset', 0) };
    if (!(curve.exponent > 0) || curve.offset < 0 || (curve.offset > 0 && curve.exponent <= 1))
      throw new CubeError((params ?? element).line, 'exponent must be over 0, and over 1 where there is an offset.');
    return curve;
  });
  const [belowZero, isBack] = POWERS[style] ?? [];
  if (belowZero === undefined)
    return { op: 'straightPower', curves, isBack: style.endsWith('Rev'), mirrors: style.includes('Mirror') };
  const [r, g, b] = curves.map((curve) => (isBack ? 1 / curve.exponent : curve.exponent)) as [number, number, number];
  return { op: 'power', exponents: [r, g, b], belowZero };
}

type CdlStyle = 'Fwd' | 'Rev' | 'FwdNoClamp' | 'RevNoClamp';
/** With what earlier versions call them. */
const CDL_STYLES: Readonly<Record<string, CdlStyle>> = {
  Fwd: 'Fwd',
  Rev: 'Rev',
  FwdNoClamp: 'FwdNoClamp',
  RevNoClamp: 'RevNoClamp',
  'v1.2_Fwd': 'Fwd',
  'v1.2_Rev': 'Rev',
  noClampFwd: 'FwdNoClamp',
  noClampRev: 'RevNoClamp',
};
function cdl(element: Element): ClfStep {
  const style = choice<CdlStyle>(element, 'style', CDL_STYLES, 'Fwd');
  const [sop, sat] = [childOf(element, 'SOPNode'), childOf(element, 'SatNode')];
  const three = (name: string, plain: number) =>
    (sop ? numbersIn(needed(sop, name), 3) : [plain, plain, plain]) as Cdl['slope'];
  const saturation = sat ? numbersIn(needed(sat, 'Saturation'), 1)[0]! : 1;
  const numbers: Cdl = { slope: three('Slope', 1), offset: three('Offset', 0), power: three('Power', 1), saturation };
  const isBack = style.startsWith('Rev');
  const known = [...numbers.power, ...(isBack ? [...numbers.slope, saturation] : [])];
  if (!known.every((v) => v > 0)) throw new CubeError(element.line, 'this CDL cannot be worked out.');
  return { op: 'cdl', cdl: numbers, clamps: !style.endsWith('NoClamp'), isBack };
}

const STEPS: Readonly<Record<string, (element: Element) => ClfStep>> = {
  LUT1D: lut1d,
  LUT3D: lut3d,
  Matrix: matrix,
  Range: range,
  Log: log,
  Exponent: exponent,
  ASC_CDL: cdl,
};
const SAID_ONLY = new Set(['Description', 'InputDescriptor', 'OutputDescriptor', 'Info']);

/**
 * Reads a ProcessList. Throws CubeError with the line: where it is not well-formed, where an operator is not known, and
 * where one lacks what it needs.
 */
export function readClf(text: string): Clf {
  const root = parsed(text);
  if (root.name !== 'ProcessList') throw new CubeError(root.line, `“${root.name.slice(0, 40)}” is no ProcessList.`);
  const steps: ClfStep[] = [];
  for (const element of root.children) {
    if (SAID_ONLY.has(element.name)) continue;
    const read = Object.hasOwn(STEPS, element.name) ? STEPS[element.name] : undefined;
    if (!read) throw new CubeError(element.line, `the operator “${element.name.slice(0, 40)}” is not known.`);
    if (steps.length === MOST_STEPS) throw new CubeError(element.line, `more than ${MOST_STEPS} operators.`);
    const step = read(element);
    if (element.attributes.bypass !== 'true') steps.push(step);
  }
  return { kind: 'CLF', title: (root.attributes.name ?? root.attributes.id ?? '').trim(), steps };
}
