// ASC CDL v1.2 as XML: .cc (one correction), .ccc (a collection), .cdl (a list of decisions).
import { XMLParser } from 'fast-xml-parser';
import { SyntaxValidator } from 'fast-xml-validator';
import { NEUTRAL_CDL, type Cdl } from '@mellow/core';

/** What is wrong with a file; says which node. */
export class CdlError extends Error {}

type Node = Record<string, unknown>;
const parser = new XMLParser({ ignoreAttributes: true, parseTagValue: false, processEntities: false });
const nodeOf = (value: unknown): Node | undefined => {
  const one: unknown = Array.isArray(value) ? value[0] : value;
  // an element with nothing in it
  if (one === '') return {};
  return typeof one === 'object' && one !== null ? (one as Node) : undefined;
};

/** The first correction, wherever the three kinds of file keep it. */
function correctionOf(root: Node): Node {
  const list = nodeOf(root.ColorDecisionList) ?? nodeOf(root.ColorCorrectionCollection) ?? root;
  const found = nodeOf((nodeOf(list.ColorDecision) ?? list).ColorCorrection);
  if (!found) throw new CdlError('It has no ColorCorrection.');
  return found;
}
function numbersOf(node: Node, name: string, count: number): number[] {
  const text = node[name];
  if (typeof text !== 'string') throw new CdlError(`It has no ${name}.`);
  const values = text.trim().split(/\s+/).map(Number);
  const due = count === 1 ? 'a number' : `${count} numbers`;
  if (values.length !== count || !values.every(Number.isFinite))
    throw new CdlError(`${name} must be ${due}, not “${text.slice(0, 40)}”.`);
  return values;
}
/** What the format and the controls allow. */
const LIMITS = { Slope: [0, 8], Offset: [-1, 1], Power: [0.1, 8], Saturation: [0, 4] } as const;
function within<T extends number[]>(name: keyof typeof LIMITS, values: T): T {
  const [low, high] = LIMITS[name];
  const stray = values.find((v) => v < low || v > high);
  if (stray !== undefined) throw new CdlError(`${name} ${stray} is beyond what is possible here, ${low} to ${high}.`);
  return values;
}

function parsed(text: string): Node {
  try {
    SyntaxValidator.validate(text);
    return parser.parse(text) as Node;
  } catch (error) {
    const { line, message } = error as { line?: number; message?: string };
    throw new CdlError(line === undefined ? String(message) : `Line ${line}: ${message}`);
  }
}

/** Reads the first correction of a file; a missing SOPNode or SatNode leaves its numbers neutral. Throws CdlError. */
export function readCdl(text: string): Cdl {
  const correction = correctionOf(parsed(text));
  const sop = nodeOf(correction.SOPNode);
  const sat = nodeOf(correction.SatNode) ?? nodeOf(correction.SATNode);
  if (!sop && !sat) throw new CdlError('Its ColorCorrection has neither SOPNode nor SatNode.');
  const three = (name: 'Slope' | 'Offset' | 'Power') =>
    within(name, numbersOf(sop!, name, 3)) as [number, number, number];
  return {
    ...NEUTRAL_CDL,
    ...(sop && { slope: three('Slope'), offset: three('Offset'), power: three('Power') }),
    ...(sat && { saturation: within('Saturation', numbersOf(sat, 'Saturation', 1))[0]! }),
  };
}

const escaped = (text: string): string =>
  text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('"', '&quot;');
/** One correction as a .cc file. */
export function cdlText(id: string, { slope, offset, power, saturation }: Cdl): string {
  const six = (values: readonly number[]) => values.map((v) => v.toFixed(6)).join(' ');
  return `<?xml version="1.0" encoding="UTF-8"?>
<ColorCorrection id="${escaped(id)}">
  <SOPNode>
    <Slope>${six(slope)}</Slope>
    <Offset>${six(offset)}</Offset>
    <Power>${six(power)}</Power>
  </SOPNode>
  <SatNode>
    <Saturation>${six([saturation])}</Saturation>
  </SatNode>
</ColorCorrection>
`;
}
