// The kernels of assembly/: what TypeScript functions of the core do, on four samples at once. The TypeScript is what
// one reads, and what serves where a processor or a browser has no such instructions.
import { COMPILED } from './compiled.ts';

/** Its functions, as assembly/ says: addresses are in bytes. */
interface Compiled {
  readonly memory: { readonly buffer: ArrayBuffer; grow: (pages: number) => number };
  readonly oklab: (
    n: number,
    r: number,
    g: number,
    b: number,
    L: number,
    a: number,
    B: number,
    matrices: number,
  ) => void;
  readonly recolour: (
    n: number,
    r: number,
    g: number,
    b: number,
    alpha: number,
    strength: number,
    matrices: number,
  ) => void;
  readonly rangeKey: (n: number, L: number, a: number, b: number, out: number, windows: number, hasHue: number) => void;
  readonly rangeKeyOfLight: (
    n: number,
    r: number,
    g: number,
    b: number,
    out: number,
    matrices: number,
    windows: number,
    hasHue: number,
  ) => void;
  readonly anyAbove0: (n: number, plane: number) => number;
  readonly lightOf8: (n: number, codes: number, table: number, where: number, out: number) => void;
  readonly lightOf16: (n: number, codes: number, table: number, where: number, out: number) => void;
  readonly mix: (n: number, r: number, g: number, b: number, matrix: number) => void;
  readonly codes: (
    n: number,
    light: number,
    alpha: number,
    table: number,
    first: number,
    steps: number,
    shift: number,
    maxCode: number,
    out: number,
    outside: number,
  ) => number;
  readonly join: (n: number, stack: number, layer: number, mode: number, strength: number) => void;
  readonly between: (n: number, plane: number, least: number, most: number, first: number, out: number) => number;
  readonly carryRow: (
    cells: number,
    kinds: number,
    placesX: number,
    placesY: number,
    alpha: number,
    width: number,
    height: number,
    out: number,
  ) => void;
  readonly standing: (
    places: number,
    alpha: number,
    ofPiece: number,
    seen: number,
    weights: number,
    part: number,
  ) => void;
  readonly flood: (
    mixed: number,
    words: number,
    next: number,
    waiting: number,
    turn: number,
    due: number,
    weights: number,
    part: number,
    steps: number,
    order: number,
  ) => number;
  readonly relax: (
    mixed: number,
    sweep: number,
    alpha: number,
    next: number,
    seen: number,
    piece: number,
    ground: number,
    terms: number,
  ) => void;
  readonly luma8: LumaOfCodes;
  readonly luma16: LumaOfCodes;
  readonly followPoint: (
    from: number,
    to: number,
    width: number,
    height: number,
    x: number,
    y: number,
    startX: number,
    startY: number,
    room: number,
  ) => number;
  readonly smoothRow: (n: number, up: number, mid: number, down: number, row: number, out: number) => void;
  readonly halveRow: (
    n: number,
    a: number,
    b: number,
    c: number,
    d: number,
    e: number,
    row: number,
    out: number,
  ) => void;
  readonly split: (n: number, rgba: number, r: number, g: number, b: number) => void;
  readonly join8: JoinCodes;
  readonly join16: JoinCodes;
  readonly slide: (n: number, coming: number, going: number, sums: number) => void;
  readonly meansOfRow: (n: number, radius: number, rows: number, padded: number, out: number) => void;
  readonly slideGuided: FourRows;
  readonly linesOfRow: (
    n: number,
    radius: number,
    rows: number,
    epsilon: number,
    padded: number,
    slope: number,
    offset: number,
  ) => void;
  readonly slideLines: FourRows;
  readonly filteredRow: (n: number, radius: number, rows: number, padded: number, guide: number, out: number) => void;
  readonly blurLines: (
    plane: number,
    count: number,
    step: number,
    length: number,
    along: number,
    forward: number,
    there: number,
    back: number,
  ) => void;
}
type LumaOfCodes = (n: number, r: number, g: number, b: number, weights: number, out: number) => void;
type JoinCodes = (n: number, r: number, g: number, b: number, table: number, out: number) => void;
/** Two rows come into sums, two go. */
type FourRows = (n: number, a: number, b: number, c: number, d: number, sums: number) => void;
type Instantiated = new (module: object) => { exports: unknown };
/** As far as it is used here: its types come with a browser's, which the core does not know. */
interface WebAssembly {
  Module: new (bytes: Uint8Array) => object;
  Instance: Instantiated;
}

const PAGE_BYTES = 65_536;
/** Room for tables, in bytes: a float a code; two doubles a step, 28 octaves of up to 2¹¹ steps; a byte a code. */
const ROOM = { decode: 4 * 65_536, encode: 16 * 28 * 2048, screen: 65_536 } as const;
/** Where numbers of a call lie; behind them a table of each kind, and the samples. */
const NUMBERS = 1024;
const TABLES = {
  decode: 2 * NUMBERS,
  encode: 2 * NUMBERS + ROOM.decode,
  screen: 2 * NUMBERS + ROOM.decode + ROOM.encode,
} as const;
export const SAMPLES = TABLES.screen + ROOM.screen;
type Table = Float32Array | Float64Array | Uint8ClampedArray;

export interface Kernels extends Compiled {
  /** Writes numbers where the call finds them and gives their address; at most 1024 bytes. */
  readonly floats: (numbers: readonly number[]) => number;
  readonly doubles: (numbers: readonly number[]) => number;
  /** The memory as samples, at least `bytes` of it. What was given before is not to be used any more. */
  readonly samples: (bytes: number) => Float32Array;
  /** Puts a table where the call finds it, unless it lies there already, and gives its address. */
  readonly table: (kind: keyof typeof TABLES, values: Table) => number;
}

function load(): Kernels | undefined {
  const { WebAssembly: wasm } = globalThis as unknown as { WebAssembly?: WebAssembly };
  if (!wasm) return undefined;
  const bytes = Uint8Array.from(atob(COMPILED), (c) => c.charCodeAt(0));
  let functions: Compiled;
  try {
    functions = new wasm.Instance(new wasm.Module(bytes)).exports as Compiled;
  } catch {
    // no such instructions here
    return undefined;
  }
  const { memory } = functions;
  memory.grow(Math.ceil(SAMPLES / PAGE_BYTES));
  let whole = new Float32Array(memory.buffer);
  const inPlace: Partial<Record<keyof typeof TABLES, Table>> = {};
  return {
    ...functions,
    floats: (numbers) => {
      whole.set(numbers, NUMBERS / 4);
      return NUMBERS;
    },
    doubles: (numbers) => {
      new Float64Array(memory.buffer, NUMBERS, numbers.length).set(numbers);
      return NUMBERS;
    },
    samples: (needed) => {
      const missing = needed - memory.buffer.byteLength;
      if (missing > 0) memory.grow(Math.ceil(missing / PAGE_BYTES));
      if (whole.buffer !== memory.buffer) whole = new Float32Array(memory.buffer);
      return whole;
    },
    table: (kind, values) => {
      if (inPlace[kind] === values) return TABLES[kind];
      if (values.byteLength > ROOM[kind]) throw new RangeError(`a table to ${kind} of ${values.byteLength} bytes`);
      const bytes = new Uint8Array(values.buffer, values.byteOffset, values.byteLength);
      new Uint8Array(memory.buffer).set(bytes, TABLES[kind]);
      inPlace[kind] = values;
      return TABLES[kind];
    },
  };
}

let loaded: Kernels | undefined;
let isLoaded = false;
/** The kernels, loaded when they are first asked for; undefined where they cannot run. */
export function kernels(): Kernels | undefined {
  if (!isLoaded) {
    loaded = load();
    isLoaded = true;
  }
  return loaded;
}
