// A decoded frame, and the planes that are derived from it when they are first asked for.
import type { CarriedFrom, CarriedMask } from '../document/carried.ts';
import type { Balance } from '../document/balance.ts';
import type { KeyReads } from '../document/key.ts';
import type { PlateLayer } from '../document/layer.ts';
import { decodeTable, encodedFromLinear709, encodeTable, type Encoding } from '../colour/encoding.ts';
import type { Lookup } from '../colour/lookupTable.ts';
import { cubeRootTable, type OklabPlanes } from '../colour/oklabPlanes.ts';
import { gatheredLight, type LinearPlanes } from '../colour/planes.ts';
import { balanceInPlace, isNeutralBalance } from '../light/balance.ts';
import { cutOut, isWholeBox, type PixelBox } from '../matte/bounds.ts';
import type { MatteSource } from '../matte/kind.ts';
import type { LookedAt } from '../scribble/looks.ts';
import { lumaOfCodes } from '../track/luma.ts';
import { pyramidOf, type Pyramid } from '../track/pyramid.ts';
import { rangeKeyOfCodesInto } from './keyedCodes.ts';
import {
  assertPicture,
  linearPlanesOf,
  maxCodeOf,
  oklabPlanesOf,
  type CodePicture,
  type CodePlane,
  type DecodeTables,
} from './picture.ts';

/** A decoded frame and what was derived from it; derived planes are made once, when first asked for. */
export interface SourceFrame {
  readonly codes: CodePicture;
  readonly encoding: Encoding;
  /** This size over the full resolution: 1 for a render, less for a proxy. */
  readonly scale: number;
  readonly isBalanced: boolean;
  /** Its shot's balance, neutral or not. */
  readonly balance: Balance | undefined;
  /** Has the footage fewer samples of chroma than of luma (4:2:2, 4:2:0)? */
  readonly sharesChroma: boolean;
  /** Linear light after the shot's balance: what the recolours start from. */
  linear(): LinearPlanes;
  /** The same at single pixels: of a few of them no planes are made. */
  lightAt(this: void, index: Uint32Array): LinearPlanes;
  oklab(reads?: KeyReads): OklabPlanes;
  /** OKLab of the balanced light in a box, planes of its size: no more is made for it where there is none yet. */
  oklabIn(this: void, box: PixelBox): OklabPlanes;
  /** The picture as the layers of a stack see it. */
  readonly matteSource: MatteSource;
  /** Encoded luma before balance, for following what moves. */
  luma(): Pyramid;
  /** A part of it as a frame of its own. Shapes and plates are not carried there: mattes are cut out of the whole. */
  within(box: PixelBox): SourceFrame;
  /** What the picture and the planes made of it here so far take, bytes. */
  heldBytes(): number;
}

/** Tables that every frame needs; make them once. Those of an encoding are made when it is first met. */
export interface Tables {
  root: Lookup;
  encode: (encoding: Encoding) => Lookup;
  decode: DecodeTables;
}
export function makeTables(): Tables {
  const remembered = <T>(make: (encoding: Encoding, maxCode: number) => T) => {
    const made = new Map<string, T>();
    return (encoding: Encoding, maxCode = 0): T => {
      const key = `${encoding} ${maxCode}`;
      const table = made.get(key) ?? make(encoding, maxCode);
      made.set(key, table);
      return table;
    };
  };
  return { decode: remembered(decodeTable), encode: remembered(encodeTable), root: cubeRootTable() };
}

/** What a frame may bring along: its shot's balance, the plates and the carried masks its stacks name. */
export interface FrameExtras {
  balance?: Balance | undefined;
  sharesChroma?: boolean | undefined;
  plate?: ((layer: PlateLayer) => Float32Array | undefined) | undefined;
  carried?: ((from: CarriedFrom) => CarriedMask | undefined) | undefined;
  /** The codes as the viewer has them, where they are others. */
  seen?: CodePicture | undefined;
}

export function sourceFrame(
  codes: CodePicture,
  encoding: Encoding,
  scale: number,
  tables: Tables,
  { balance, sharesChroma = false, plate, carried, seen }: FrameExtras = {},
): SourceFrame {
  assertPicture(codes);
  const isBalanced = balance !== undefined && !isNeutralBalance(balance);
  let held = bytesIn(codes);
  const once = <T>(make: () => T): (() => T) => {
    let made: T | undefined;
    return () => {
      if (made !== undefined) return made;
      made = make();
      held += bytesIn(made);
      return made;
    };
  };
  let isDecoded = false;
  const source = once(() => {
    isDecoded = true;
    return linearPlanesOf(codes, encoding, tables.decode);
  });
  const balanced = !isBalanced
    ? source
    : once(() => {
        const from = source();
        const to: LinearPlanes = { r: from.r.slice(), g: from.g.slice(), b: from.b.slice() };
        balanceInPlace(to, balance, encoding, tables.encode(encoding));
        return to;
      });
  let hasOklab = false;
  const oklabOf = {
    unbalanced: once(() => oklabPlanesOf(source(), tables.root)),
    balanced: once(() => {
      hasOklab = true;
      return oklabPlanesOf(balanced(), tables.root);
    }),
  };
  const encodedOf = {
    unbalanced: once(() => encodedFromLinear709(source(), encoding, tables.encode(encoding))),
    balanced: once(() => encodedFromLinear709(balanced(), encoding, tables.encode(encoding))),
  };
  // without a balance both readings are one: share what was made
  const reading = (reads: KeyReads): KeyReads => (isBalanced ? reads : 'balanced');
  const oklab = (reads: KeyReads = 'balanced') => oklabOf[reading(reads)]();
  const { width, height } = codes;
  const luma = once(() => pyramidOf(lumaOfCodes(codes.r, codes.g, codes.b, maxCodeOf(codes.r)), width, height));
  const asSeen = seen
    ? once((): LookedAt => {
        const own = sourceFrame(seen, encoding, (scale * seen.width) / width, tables, { balance });
        return { oklab: own.oklab(), width: seen.width, height: seen.height, scale: own.scale };
      })
    : () => ({ oklab: oklab(), width, height, scale });
  const within = (box: PixelBox) =>
    sourceFrame(codesWithin(codes, box), encoding, scale, tables, { balance, sharesChroma });
  const oklabIn = (box: PixelBox): OklabPlanes => {
    if (isWholeBox(box, width, height)) return oklab();
    if (!hasOklab) return within(box).oklab();
    const { L, a, b } = oklab();
    return { L: cutOut(L, width, box), a: cutOut(a, width, box), b: cutOut(b, width, box) };
  };
  return {
    codes,
    encoding,
    within,
    heldBytes: () => held,
    luma,
    scale,
    isBalanced,
    balance,
    sharesChroma,
    linear: balanced,
    lightAt: (index) =>
      isBalanced || isDecoded
        ? gatheredLight(balanced(), index)
        : linearPlanesOf(codesAt(codes, index), encoding, tables.decode),
    oklab,
    oklabIn,
    matteSource: {
      width,
      height,
      scale,
      oklab,
      rangeKey: (out, key) => !isBalanced && !hasOklab && rangeKeyOfCodesInto(out, codes, key, encoding, tables.decode),
      light: balanced,
      encoded: (reads) => encodedOf[reading(reads)](),
      seen: asSeen,
      plate: plate ?? (() => undefined),
      carried: carried ?? (() => undefined),
    },
  };
}

/** Bytes of all planes in a value, however deep. */
function bytesIn(value: unknown): number {
  if (ArrayBuffer.isView(value)) return value.byteLength;
  if (typeof value !== 'object' || value === null) return 0;
  return Object.values(value).reduce<number>((sum, part) => sum + bytesIn(part), 0);
}

/** The codes of single pixels, side by side in one row. */
export function codesAt({ r, g, b }: CodePicture, index: Uint32Array): CodePicture {
  const gathered = <P extends CodePlane>(plane: P): P => {
    const out = new (plane.constructor as new (length: number) => P)(index.length);
    for (let k = 0; k < index.length; k++) out[k] = plane[index[k]!]!;
    return out;
  };
  return { width: index.length, height: 1, r: gathered(r), g: gathered(g), b: gathered(b) };
}

/** The codes of a part of a picture. */
export const codesWithin = ({ width, r, g, b }: CodePicture, box: PixelBox): CodePicture => ({
  width: box.x1 - box.x0,
  height: box.y1 - box.y0,
  r: cutOut(r, width, box),
  g: cutOut(g, width, box),
  b: cutOut(b, width, box),
});
