import { decodeTable, encodeTable, linearFromCode, type Encoding } from '../colour/encoding.ts';
import type { Lookup } from '../colour/lookupTable.ts';
import { cubeRootTable, type OklabPlanes } from '../colour/oklabPlanes.ts';
import { balanceInPlace, isNeutralBalance, type Balance } from '../light/balance.ts';
import type { CleanUp } from '../matte/cleanUp.ts';
import { findSpill, type Spill, type SpillMap } from '../matte/spill.ts';
import { steadied } from '../matte/steady.ts';
import {
  cleanedStackMatteInto,
  layerMatteInto,
  type KeyReads,
  type Layer,
  type LayerMatte,
  type MatteSource,
  type PlateLayer,
} from '../matte/stack.ts';
import { measurePiece, type Measurement } from '../measure/measurePiece.ts';
import { recolourInto, type LinearPlanes } from '../recolour/recolourInto.ts';
import { isNeutral, type Shift } from '../recolour/shift.ts';
import { spillInto } from '../recolour/spillInto.ts';
import { lumaOfCodes, pyramidOf, type Pyramid } from '../track/pyramid.ts';
import {
  assertPicture,
  linearPlanesOf,
  maxCodeOf,
  oklabPlanesOf,
  type CodePicture,
  type CodePlane,
  type DecodeTables,
} from './picture.ts';

/** One piece on this frame: where it is, and what becomes of its colour. */
export interface SightingRender {
  layers: readonly Layer[];
  /** Clean-up of the whole stack; left out: none. */
  cleanUp?: CleanUp | undefined;
  /** What happens to the old colour outside the matte; left out: nothing. */
  spill?: Spill | undefined;
  shift: Shift;
  /** 0..1 on the whole recolour. */
  strength: number;
  /** Frames on either side that the finished matte is steadied over; left out or 0: it stands alone. Needs the frames around: see `steadiedMatte`. */
  steadyFrames?: number | undefined;
}

/** A decoded frame and what was derived from it; derived planes are made once, when first asked for. */
export interface SourceFrame {
  readonly codes: CodePicture;
  readonly encoding: Encoding;
  /** This size over the full resolution: 1 for a render, less for a proxy. */
  readonly scale: number;
  readonly isBalanced: boolean;
  /** Linear light after the shot's balance: what the recolours start from. */
  linear(): LinearPlanes;
  oklab(reads?: KeyReads): OklabPlanes;
  /** The picture as the layers of a stack see it. */
  readonly matteSource: MatteSource;
  /** Encoded luma before balance, for following what moves. */
  luma(): Pyramid;
}

/** Tables that every frame needs; make them once. */
export interface Tables {
  root: Lookup;
  encode: Record<Encoding, Lookup>;
  decode: DecodeTables;
}
export function makeTables(): Tables {
  const made = new Map<string, Float32Array>();
  const decode: DecodeTables = (encoding, maxCode) => {
    const key = `${encoding} ${maxCode}`;
    const table = made.get(key) ?? decodeTable(encoding, maxCode);
    made.set(key, table);
    return table;
  };
  return {
    decode,
    root: cubeRootTable(),
    encode: { srgb: encodeTable('srgb'), rec709: encodeTable('rec709'), linear709: encodeTable('linear709') },
  };
}

/** What a frame may bring along: its shot's balance, and the plates its stacks name. */
export interface FrameExtras {
  balance?: Balance | undefined;
  plate?: ((layer: PlateLayer) => Float32Array | undefined) | undefined;
}

export function sourceFrame(
  codes: CodePicture,
  encoding: Encoding,
  scale: number,
  tables: Tables,
  { balance, plate }: FrameExtras = {},
): SourceFrame {
  assertPicture(codes);
  const isBalanced = balance !== undefined && !isNeutralBalance(balance);
  const once = <T>(make: () => T): (() => T) => {
    let made: T | undefined;
    return () => (made ??= make());
  };
  const source = once(() => linearPlanesOf(codes, encoding, tables.decode));
  const balanced = !isBalanced
    ? source
    : once(() => {
        const from = source();
        const to: LinearPlanes = { r: from.r.slice(), g: from.g.slice(), b: from.b.slice() };
        balanceInPlace(to, balance, {
          encode: tables.encode[encoding],
          decode: (code) => linearFromCode(encoding, code),
        });
        return to;
      });
  const oklabOf = {
    unbalanced: once(() => oklabPlanesOf(source(), tables.root)),
    balanced: once(() => oklabPlanesOf(balanced(), tables.root)),
  };
  const encodedOf = {
    unbalanced: once(() => encodedPlanes(source(), tables.encode[encoding])),
    balanced: once(() => encodedPlanes(balanced(), tables.encode[encoding])),
  };
  // without a balance both readings are one: share what was made
  const reading = (reads: KeyReads): KeyReads => (isBalanced ? reads : 'balanced');
  const oklab = (reads: KeyReads = 'balanced') => oklabOf[reading(reads)]();
  const { width, height } = codes;
  const luma = once(() => pyramidOf(lumaOfCodes(codes.r, codes.g, codes.b, maxCodeOf(codes.r)), width, height));
  return {
    codes,
    encoding,
    luma,
    scale,
    isBalanced,
    linear: balanced,
    oklab,
    matteSource: {
      width,
      height,
      scale,
      oklab,
      encoded: (reads) => encodedOf[reading(reads)](),
      plate: plate ?? (() => undefined),
    },
  };
}

function encodedPlanes({ r, g, b }: LinearPlanes, encode: Lookup): LinearPlanes {
  const of = (plane: Float32Array) => {
    const out = new Float32Array(plane.length);
    encode.into(out, plane);
    return out;
  };
  return { r: of(r), g: of(g), b: of(b) };
}

/** α of a sighting's stack on a frame, cleaned up, in a new plane. */
export function frameMatte(
  source: SourceFrame,
  layers: readonly Layer[],
  cleanUp?: CleanUp,
  layerMatte: LayerMatte = (layer) => ownMatte(source, layer),
): Float32Array {
  const out = new Float32Array(source.codes.width * source.codes.height);
  cleanedStackMatteInto(out, layers, cleanUp, source.matteSource, layerMatte);
  return out;
}

/** α of one layer on a frame, in a new plane. */
export function ownMatte(
  source: SourceFrame,
  layer: Layer,
  inner: LayerMatte = (each) => ownMatte(source, each),
): Float32Array {
  const { width, height } = source.codes;
  const out = new Float32Array(width * height);
  layerMatteInto(out, layer, source.matteSource, inner);
  return out;
}

/** A sighting on a frame near another. */
export interface Around {
  source: SourceFrame;
  sighting: SightingRender;
}
/** α of a sighting on a frame, steadied over the frames around it (`steadyFrames` on either side, as far as the shot goes). */
export function steadiedMatte(
  source: SourceFrame,
  sighting: SightingRender,
  around: readonly Around[],
  matteOf = (s: SourceFrame, r: SightingRender) => frameMatte(s, r.layers, r.cleanUp),
): Float32Array {
  const alpha = matteOf(source, sighting);
  if (!sighting.steadyFrames || around.length === 0) return alpha;
  const moment = (s: SourceFrame, a: Float32Array) => ({
    width: s.codes.width,
    height: s.codes.height,
    alpha: a,
    luma: s.luma(),
  });
  return steadied(
    moment(source, alpha),
    around.map((n) => moment(n.source, matteOf(n.source, n.sighting))),
  );
}

export interface RecolouredFrame {
  /** Linear light after all recolours, before encoding and clamping. */
  linear: LinearPlanes;
  /** α of each sighting, in the given order. */
  mattes: Float32Array[];
  /** Spill found outside each matte; undefined where it is off or there is none. */
  spills: (SpillMap | undefined)[];
  /** Indices of the pixels where a recolour has been at work, ascending. */
  touched: Uint32Array;
}
export interface RenderedFrame extends RecolouredFrame {
  /** Same size, sample type and encoding as the source. */
  codes: CodePicture;
}
type MatteOf = (sighting: SightingRender, index: number) => Float32Array;

/**
 * For each sighting, in order, its matte (keys read the picture before any recolour), its recolour and what it does to
 * the spill, in linear light.
 */
export function recolourFrame(
  source: SourceFrame,
  sightings: readonly SightingRender[],
  tables: Tables,
  matteOf?: MatteOf,
): RecolouredFrame {
  const { width, height } = source.codes;
  const mattes = sightings.map((s, i) => (matteOf ? matteOf(s, i) : frameMatte(source, s.layers, s.cleanUp)));
  const spills = sightings.map((s, i) =>
    s.spill && s.spill.mode !== 'off'
      ? findSpill(mattes[i]!, source.oklab(), width, height, s.spill, source.scale)
      : undefined,
  );
  const from = source.linear();
  const linear: LinearPlanes = { r: from.r.slice(), g: from.g.slice(), b: from.b.slice() };
  const atWork: Float32Array[] = [];
  sightings.forEach(({ shift, strength, spill }, k) => {
    const map = spills[k];
    const neutral = isNeutral(shift);
    if (strength === 0) return;
    if (map && spill && spill.mode !== 'off' && !(neutral && spill.mode === 'follow')) {
      spillInto(linear, map, spill.mode, shift, strength);
      atWork.push(map.share);
    }
    if (neutral) return;
    recolourInto(linear, mattes[k]!, strength, shift, tables.root);
    atWork.push(mattes[k]!);
  });
  return {
    linear,
    mattes,
    spills,
    touched: source.isBalanced ? everyIndex(width * height) : selectedBy(atWork, width * height),
  };
}

const everyIndex = (length: number): Uint32Array => Uint32Array.from({ length }, (_, i) => i);

/** Indices of the pixels that any of the mattes selects. */
function selectedBy(mattes: readonly Float32Array[], length: number): Uint32Array {
  const indices = new Uint32Array(mattes.length === 0 ? 0 : length);
  let n = 0;
  if (mattes.length === 1) {
    const only = mattes[0]!;
    for (let i = 0; i < length; i++) if (only[i]! > 0) indices[n++] = i;
  } else if (mattes.length > 1) for (let i = 0; i < length; i++) if (mattes.some((m) => m[i]! > 0)) indices[n++] = i;
  return indices.subarray(0, n);
}

/** One frame: decode → balance → `recolourFrame` → encode. Without a balance, where every α and share is 0 the output code *is* the input code. */
export function renderFrame(
  source: SourceFrame,
  sightings: readonly SightingRender[],
  tables: Tables,
  matteOf?: MatteOf,
): RenderedFrame {
  const recoloured = recolourFrame(source, sightings, tables, matteOf);
  const { linear, touched } = recoloured;
  const table = tables.encode[source.encoding];
  const { width, height, r, g, b } = source.codes;
  const encode = (codes: CodePlane, plane: Float32Array) => encodeTouched(codes, plane, touched, table);
  return {
    ...recoloured,
    codes: { width, height, r: encode(r, linear.r), g: encode(g, linear.g), b: encode(b, linear.b) },
  };
}

/** A copy of `codes` with the touched pixels encoded anew; integer codes are rounded and clamped to their range. */
function encodeTouched(codes: CodePlane, linear: Float32Array, touched: Uint32Array, encode: Lookup): CodePlane {
  const out = codes.slice();
  const light = new Float32Array(touched.length);
  for (let k = 0; k < touched.length; k++) light[k] = linear[touched[k]!]!;
  const encoded = new Float32Array(touched.length);
  encode.into(encoded, light);
  if (out instanceof Float32Array) for (let k = 0; k < touched.length; k++) out[touched[k]!] = encoded[k]!;
  else {
    const maxCode = maxCodeOf(codes);
    for (let k = 0; k < touched.length; k++)
      out[touched[k]!] = Math.min(Math.max(encoded[k]! * maxCode + 0.5, 0), maxCode);
  }
  return out;
}

/**
 * The piece's colour in the source and after the recolour; pixels clipped in the source are left out of both. `before`
 * may be given when the same matte has been measured already. Undefined where there is nothing to measure.
 */
export function measureSighting(
  source: SourceFrame,
  recoloured: RecolouredFrame,
  index: number,
  known?: Measurement,
): { before: Measurement; after: Measurement } | undefined {
  const isClipped = clippingOf(source.codes);
  const alpha = recoloured.mattes[index]!;
  const before = known ?? measurePiece(source.linear(), alpha, isClipped);
  const after = measurePiece(recoloured.linear, alpha, isClipped);
  return before && after ? { before, after } : undefined;
}

/** Tells whether a pixel's code sits at the end of its range: any channel at the top, or all at the bottom. */
export function clippingOf({ r, g, b }: CodePicture): (index: number) => boolean {
  const top = maxCodeOf(r);
  return (i) => r[i]! >= top || g[i]! >= top || b[i]! >= top || (r[i] === 0 && g[i] === 0 && b[i] === 0);
}
