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
type Instantiated = new (module: object) => { exports: unknown };
/** As far as it is used here: its types come with a browser's, which the core does not know. */
interface WebAssembly {
  Module: new (bytes: Uint8Array) => object;
  Instance: Instantiated;
}

const PAGE_BYTES = 65_536;
/** Where numbers of a call lie, and behind them the samples. */
const NUMBERS = 1024;
export const SAMPLES = 2048;

export interface Kernels extends Compiled {
  /** Writes numbers where the call finds them and gives their address; at most 1024 bytes. */
  readonly floats: (numbers: readonly number[]) => number;
  readonly doubles: (numbers: readonly number[]) => number;
  /** The memory as samples, at least `bytes` of it. What was given before is not to be used any more. */
  readonly samples: (bytes: number) => Float32Array;
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
  memory.grow(2);
  let whole = new Float32Array(memory.buffer);
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
