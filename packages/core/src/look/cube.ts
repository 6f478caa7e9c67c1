// Look-up tables as text, after the "Cube LUT Specification", version 1.0 (2013).

/** A table of R, G, B codes. */
export interface Cube {
  title: string;
  kind: '1D' | '3D';
  /** Entries along a side: 2..65536 of a 1-D table, 2..256 of a 3-D one. */
  size: number;
  /** The codes that the first and the last entry stand for, a channel each. */
  domain: { min: [number, number, number]; max: [number, number, number] };
  /** R, G, B of every entry; in a 3-D table red runs fastest, then green, then blue. */
  values: Float32Array;
  /** A 3-D table that is to be read linearly along each axis, not in tetrahedra. */
  isTrilinear?: boolean;
}
/** What is wrong with the text of a table; its message begins with the line. */
export class CubeError extends Error {
  constructor(line: number | undefined, what: string) {
    super(line === undefined ? what : `Line ${line}: ${what}`);
  }
}

const SIZES = { '1D': [2, 65536], '3D': [2, 256] } as const;
/** Numbers as the specification has them: decimal, with an exponent if need be. */
const NUMBER = /^[+-]?(\d+\.?\d*|\.\d+)([eE][+-]?\d+)?$/;

export function numbersOf(words: readonly string[], line: number, wanted: number, of: string): number[] {
  if (words.length !== wanted) throw new CubeError(line, `${of} must be ${wanted} numbers, not ${words.length}.`);
  return words.map((word) => {
    const value = NUMBER.test(word) ? Number(word) : NaN;
    if (!Number.isFinite(value)) throw new CubeError(line, `“${word.slice(0, 40)}” is no number.`);
    return value;
  });
}

/** Reads the text of a table. Throws CubeError. */
export function readCube(text: string): Cube {
  let title = '';
  let kind: Cube['kind'] | undefined;
  let size = 0;
  const domain: Cube['domain'] = { min: [0, 0, 0], max: [1, 1, 1] };
  let values = new Float32Array(0);
  let filled = 0;
  let line = 0;
  for (const raw of text.split(/\r\n|\n|\r/)) {
    line++;
    const said = raw.trim();
    if (said === '' || said.startsWith('#')) continue;
    const words = said.split(/\s+/);
    const [key] = words as [string];
    if (/^[+\-.\d]/.test(key)) {
      if (!kind) throw new CubeError(line, 'numbers come before LUT_1D_SIZE or LUT_3D_SIZE.');
      if (filled === values.length) throw new CubeError(line, `more than the ${values.length / 3} entries stated.`);
      for (const value of numbersOf(words, line, 3, 'an entry')) values[filled++] = value;
    } else if (filled > 0) throw new CubeError(line, `“${key.slice(0, 40)}” comes after the table has begun.`);
    else if (key === 'TITLE') title = /^TITLE\s+"(.*)"$/.exec(said)?.[1] ?? said.slice(5).trim();
    else if (key === 'DOMAIN_MIN') domain.min = numbersOf(words.slice(1), line, 3, key) as Cube['domain']['min'];
    else if (key === 'DOMAIN_MAX') domain.max = numbersOf(words.slice(1), line, 3, key) as Cube['domain']['max'];
    else if (key === 'LUT_1D_SIZE' || key === 'LUT_3D_SIZE') {
      if (kind) throw new CubeError(line, 'a second size: one table to a file.');
      kind = key === 'LUT_1D_SIZE' ? '1D' : '3D';
      [size] = numbersOf(words.slice(1), line, 1, key) as [number];
      const [least, most] = SIZES[kind];
      if (!Number.isInteger(size) || size < least || size > most)
        throw new CubeError(line, `${key} must be a whole number from ${least} to ${most}.`);
      values = new Float32Array(3 * (kind === '1D' ? size : size ** 3));
    } else throw new CubeError(line, `“${key.slice(0, 40)}” is not known.`);
  }
  if (!kind) throw new CubeError(undefined, 'It states no LUT_1D_SIZE or LUT_3D_SIZE.');
  if (filled < values.length)
    throw new CubeError(line, `the table ends after ${filled / 3} of ${values.length / 3} entries.`);
  if (domain.min.some((v, c) => v >= domain.max[c]!))
    throw new CubeError(undefined, 'DOMAIN_MIN must be less than DOMAIN_MAX in every channel.');
  return { title, kind, size, domain, values };
}

/** The text of a table: six decimals, as the specification shows them. */
export function cubeText({ title, kind, size, domain, values }: Cube): string {
  const triple = (v: ArrayLike<number>, at = 0) => [0, 1, 2].map((c) => v[at + c]!.toFixed(6)).join(' ');
  const lines = [`TITLE "${title.replaceAll('"', "'").replaceAll(/\s+/g, ' ')}"`, `LUT_${kind}_SIZE ${size}`];
  if ([...domain.min, ...domain.max].join() !== '0,0,0,1,1,1')
    lines.push(`DOMAIN_MIN ${triple(domain.min)}`, `DOMAIN_MAX ${triple(domain.max)}`);
  for (let at = 0; at < values.length; at += 3) lines.push(triple(values, at));
  return `${lines.join('\n')}\n`;
}

/** A 3-D table of what a function makes of codes 0..1. */
export function cubeOf(title: string, size: number, of: (rgb: Float64Array) => void): Cube {
  const values = new Float32Array(3 * size ** 3);
  const rgb = new Float64Array(3);
  let at = 0;
  for (let b = 0; b < size; b++)
    for (let g = 0; g < size; g++)
      for (let r = 0; r < size; r++) {
        rgb[0] = r / (size - 1);
        rgb[1] = g / (size - 1);
        rgb[2] = b / (size - 1);
        of(rgb);
        values.set(rgb, at);
        at += 3;
      }
  return { title, kind: '3D', size, domain: { min: [0, 0, 0], max: [1, 1, 1] }, values };
}
