import { decodeTable, encodeTable, type Encoding } from '../colour/encoding.ts';
import type { Lookup } from '../colour/lookupTable.ts';
import { cubeRootTable, type OklabPlanes } from '../colour/oklabPlanes.ts';
import { layerMatteInto, stackMatteInto, type Layer } from '../matte/stack.ts';
import { measurePiece, type Measurement } from '../measure/measurePiece.ts';
import { recolourInto, type LinearPlanes } from '../recolour/recolourInto.ts';
import { isNeutral, type Shift } from '../recolour/shift.ts';
import { assertPicture, linearPlanesOf, maxCodeOf, oklabPlanesOf, type CodePicture, type CodePlane, type DecodeTables } from './picture.ts';

/** One piece on this frame: where it is, and what becomes of its colour. */
export interface SightingRender {
  layers: readonly Layer[];
  shift: Shift;
  /** 0..1 on the whole recolour. */
  strength: number;
}

/** A decoded frame and what was derived from it; derived planes are made once, when first asked for. */
export interface SourceFrame {
  readonly codes: CodePicture;
  readonly encoding: Encoding;
  /** This size over the full resolution: 1 for a render, less for a proxy. */
  readonly scale: number;
  linear(): LinearPlanes;
  oklab(): OklabPlanes;
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
    decode, root: cubeRootTable(), encode: { srgb: encodeTable('srgb'), rec709: encodeTable('rec709'), linear709: encodeTable('linear709') } };
}

export function sourceFrame(codes: CodePicture, encoding: Encoding, scale: number, tables: Tables): SourceFrame {
  assertPicture(codes);
  let linear: LinearPlanes | undefined;
  let oklab: OklabPlanes | undefined;
  const linearOnce = () => (linear ??= linearPlanesOf(codes, encoding, tables.decode));
  return { codes, encoding, scale, linear: linearOnce, oklab: () => (oklab ??= oklabPlanesOf(linearOnce(), tables.root)) };
}

/** α of a stack of layers on a frame, in a new plane. */
export function frameMatte(source: SourceFrame, layers: readonly Layer[], layerMatte = (layer: Layer) => ownMatte(source, layer)): Float32Array {
  const out = new Float32Array(source.codes.width * source.codes.height);
  stackMatteInto(out, layers, layerMatte);
  return out;
}

/** α of one layer on a frame, in a new plane. */
export function ownMatte(source: SourceFrame, layer: Layer): Float32Array {
  const { width, height } = source.codes;
  const out = new Float32Array(width * height);
  layerMatteInto(out, layer, { width, height, scale: source.scale, oklab: source.oklab });
  return out;
}

export interface RecolouredFrame {
  /** Linear light after all recolours, before encoding and clamping. */
  linear: LinearPlanes;
  /** α of each sighting, in the given order. */
  mattes: Float32Array[];
  /** Indices of the pixels where a recolour has been at work, ascending. */
  touched: Uint32Array;
}
export interface RenderedFrame extends RecolouredFrame {
  /** Same size, sample type and encoding as the source. */
  codes: CodePicture;
}
type MatteOf = (sighting: SightingRender, index: number) => Float32Array;

/** For each sighting, in order, its matte (keys read the picture before any recolour) and its recolour, in linear light. */
export function recolourFrame(source: SourceFrame, sightings: readonly SightingRender[], tables: Tables, matteOf?: MatteOf): RecolouredFrame {
  const mattes = sightings.map((s, i) => (matteOf ? matteOf(s, i) : frameMatte(source, s.layers)));
  const from = source.linear();
  const linear: LinearPlanes = { r: from.r.slice(), g: from.g.slice(), b: from.b.slice() };
  const atWork: Float32Array[] = [];
  sightings.forEach(({ shift, strength }, k) => {
    if (isNeutral(shift) || strength === 0) return;
    recolourInto(linear, mattes[k]!, strength, shift, tables.root);
    atWork.push(mattes[k]!);
  });
  return { linear, mattes, touched: selectedBy(atWork, linear.r.length) };
}

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

/** One frame: decode → `recolourFrame` → encode. Where every α is 0 the output code *is* the input code. */
export function renderFrame(source: SourceFrame, sightings: readonly SightingRender[], tables: Tables, matteOf?: MatteOf): RenderedFrame {
  const recoloured = recolourFrame(source, sightings, tables, matteOf);
  const { linear, touched } = recoloured;
  const table = tables.encode[source.encoding];
  const { width, height, r, g, b } = source.codes;
  const encode = (codes: CodePlane, plane: Float32Array) => encodeTouched(codes, plane, touched, table);
  return { ...recoloured, codes: { width, height, r: encode(r, linear.r), g: encode(g, linear.g), b: encode(b, linear.b) } };
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
    for (let k = 0; k < touched.length; k++) out[touched[k]!] = Math.min(Math.max(encoded[k]! * maxCode + 0.5, 0), maxCode);
  }
  return out;
}

/**
 * The piece's colour in the source and after the recolour; pixels clipped in the source are left out of both. `before`
 * may be given when the same matte has been measured already. Undefined where there is nothing to measure.
 */
export function measureSighting(source: SourceFrame, recoloured: RecolouredFrame, index: number, known?: Measurement): { before: Measurement; after: Measurement } | undefined {
  const { r, g, b } = source.codes;
  const top = maxCodeOf(r);
  const isClipped = (i: number) => r[i]! >= top || g[i]! >= top || b[i]! >= top || (r[i] === 0 && g[i] === 0 && b[i] === 0);
  const alpha = recoloured.mattes[index]!;
  const before = known ?? measurePiece(source.linear(), alpha, isClipped);
  const after = measurePiece(recoloured.linear, alpha, isClipped);
  return before && after ? { before, after } : undefined;
}
