import type { Balance } from '../document/balance.ts';
import type { KeyReads } from '../document/key.ts';
import type { CleanUp, Spill } from '../document/cleaning.ts';
import type { Layer, PlateLayer } from '../document/layer.ts';
import {
  clampToCodes,
  decodeTable,
  encodedFromLinear709,
  encodeTable,
  pastEnds,
  type Encoding,
} from '../colour/encoding.ts';
import type { Lookup } from '../colour/lookupTable.ts';
import { cubeRootTable, type OklabPlanes } from '../colour/oklabPlanes.ts';
import { balanceInPlace, isNeutralBalance } from '../light/balance.ts';
import { findSpill, type SpillMap } from '../matte/spill.ts';
import { steadied } from '../matte/steady.ts';
import type { LayerMatte, MatteSource } from '../matte/kind.ts';
import { cleanedStackMatteInto, layerMatteInto } from '../matte/stack.ts';
import { coverageOf } from '../measure/coverage.ts';
import { MEASURED_ALPHA, measurePiece, type Measurement, type SheenShown } from '../measure/measurePiece.ts';
import type { LinearPlanes } from '../colour/planes.ts';
import { edgeColoursOf, type EdgeColours } from '../recolour/edgeColours.ts';
import { outsideInto, outsideOf } from '../recolour/outsideInto.ts';
import { textureInto } from '../recolour/textureInto.ts';
import { recolourInto } from '../recolour/recolourInto.ts';
import type { Program } from '../recolour/program.ts';
import { sheenOf } from '../recolour/sheen.ts';
import { bounceInto } from '../recolour/bounceInto.ts';
import { removeSpillInto } from '../recolour/spillInto.ts';
import { lumaOfCodes, pyramidOf, type Pyramid } from '../track/pyramid.ts';
import {
  assertPicture,
  codesFromEncoded,
  linearPlanesOf,
  maxCodeOf,
  oklabPlanesOf,
  type CodePicture,
  type CodePlane,
  type DecodeTables,
} from './picture.ts';

/** One piece on this frame: where it is, and what becomes of its colour. */
export interface SightingRender {
  program: Program;
  layers: readonly Layer[];
  /** Clean-up of the whole stack; left out: none. */
  cleanUp?: CleanUp | undefined;
  /** What happens to the old colour outside the matte; left out: nothing. */
  spill?: Spill | undefined;
  /**
   * Frames on either side that the finished matte is steadied over; left out or 0: it stands alone. Needs the frames
   * around: see `steadiedMatte`.
   */
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
        balanceInPlace(to, balance, encoding, tables.encode(encoding));
        return to;
      });
  const oklabOf = {
    unbalanced: once(() => oklabPlanesOf(source(), tables.root)),
    balanced: once(() => oklabPlanesOf(balanced(), tables.root)),
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
      light: balanced,
      encoded: (reads) => encodedOf[reading(reads)](),
      plate: plate ?? (() => undefined),
    },
  };
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
/**
 * α of a sighting on a frame, steadied over the frames around it (`steadyFrames` on either side, as far as the shot
 * goes).
 */
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
  /** The sheen on each piece, as recoloured, where it is told apart. */
  sheens: (SheenShown | undefined)[];
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
    s.spill?.mode === 'remove'
      ? findSpill(mattes[i]!, source.oklab(), width, height, s.spill, source.scale)
      : undefined,
  );
  const from = source.linear();
  const linear: LinearPlanes = { r: from.r.slice(), g: from.g.slice(), b: from.b.slice() };
  const atWork: Float32Array[] = [];
  const sheens: (SheenShown | undefined)[] = sightings.map(() => undefined);
  sightings.forEach((sighting, k) => {
    const { spill, program } = sighting;
    const map = spills[k];
    if (program.strength === 0) return;
    if (map) {
      removeSpillInto(linear, map, program.strength);
      atWork.push(map.share);
    }
    if (program.outside) {
      const outside = outsideOf(mattes, width * height);
      outsideInto(linear, outside, program.outside, program.strength);
      atWork.push(outside);
    }
    if (program.isNeutral) return;
    const sheen = sheenFor(source, mattes[k]!, program);
    if (sheen) sheens[k] = sheenShown(program, sheen);
    const edge = edgeOf(source, linear, mattes[k]!, atWork, sheen);
    const isBounced = spill?.mode === 'bounce' && spill.within && spill.amount > 0;
    const before = isBounced && { r: linear.r.slice(), g: linear.g.slice(), b: linear.b.slice() };
    const { texture, strength } = program;
    const own = recolourInto(linear, mattes[k]!, program, tables.root, edge, sheen);
    if (texture) textureInto(linear, mattes[k]!, width, texture, strength, source.scale, own);
    atWork.push(mattes[k]!);
    if (!before) return;
    const { within, amount } = spill;
    const touched = bounceInto(linear, before, mattes[k]!, width, { within: within!, amount }, source.scale);
    if (touched) atWork.push(touched);
  });
  return {
    linear,
    mattes,
    spills,
    sheens,
    touched: source.isBalanced ? everyIndex(width * height) : selectedBy(atWork, width * height),
  };
}

function sheenShown({ sheen, strength }: Program, luminance: Float32Array): SheenShown | undefined {
  return sheen && { luminance, light: sheen.body.light, kept: 1 + strength * (sheen.kept - 1) };
}

/** What is sheen in a matte on the picture as it came in. */
const sheens = new WeakMap<Float32Array, { of: LinearPlanes; key: string; sheen: Float32Array }>();
function sheenFor(source: SourceFrame, alpha: Float32Array, program: Program): Float32Array | undefined {
  if (!program.sheen) return undefined;
  const { body } = program.sheen;
  const of = source.linear();
  const key = JSON.stringify(body);
  const known = sheens.get(alpha);
  if (known?.of === of && known.key === key) return known.sheen;
  const { width, height } = source.codes;
  const sheen = sheenOf(of, alpha, width, height, body, source.scale);
  sheens.set(alpha, { of, key, sheen });
  return sheen;
}

/** The edge of a matte on the picture as it came in: it does not change while a recolour does. */
const edges = new WeakMap<
  Float32Array,
  { of: LinearPlanes; sheen: Float32Array | undefined; edge: EdgeColours | undefined }
>();

/** The piece's own colour under its edge in `linear`, where earlier recolours have been `atWork`. */
function edgeOf(
  source: SourceFrame,
  linear: LinearPlanes,
  alpha: Float32Array,
  atWork: readonly Float32Array[],
  sheen: Float32Array | undefined,
): EdgeColours | undefined {
  const { width, height } = source.codes;
  const of = source.linear();
  const edgeIn = (picture: LinearPlanes) => edgeColoursOf(picture, alpha, width, height, source.scale, sheen);
  const known = edges.get(alpha);
  const own = known?.of === of && known.sheen === sheen ? known : { of, sheen, edge: edgeIn(of) };
  edges.set(alpha, own);
  const isAsItCame = own.edge?.index.every((i) => atWork.every((a) => a[i] === 0)) ?? true;
  return isAsItCame ? own.edge : edgeIn(linear);
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

/** What the codes of a rendered frame are; left out: as those of the source. */
export interface RenderAs {
  encoding?: Encoding | undefined;
  /** `float`: values that may lie past 0 and 1, 1 being full scale. */
  samples?: 'as the source' | 'float' | undefined;
}
/**
 * One frame: decode → balance → `recolourFrame` → encode. Without a balance, where every α and share is 0 the output
 * code *is* the input code. In another encoding than the source's every pixel is encoded anew.
 */
export function renderFrame(
  source: SourceFrame,
  sightings: readonly SightingRender[],
  tables: Tables,
  matteOf?: MatteOf,
  { encoding = source.encoding, samples = 'as the source' }: RenderAs = {},
): RenderedFrame {
  const recoloured = recolourFrame(source, sightings, tables, matteOf);
  const { codes } = source;
  const touched = encoding === source.encoding ? recoloured.touched : everyIndex(codes.width * codes.height);
  const from = samples === 'float' ? asFloats(codes) : codes;
  return { ...recoloured, codes: encodedWhere(from, recoloured.linear, touched, encoding, tables) };
}

/** The same codes with 1 for full scale. */
function asFloats({ width, height, r, g, b }: CodePicture): CodePicture {
  const scale = 1 / maxCodeOf(r);
  const floats = (plane: CodePlane) =>
    plane instanceof Float32Array ? plane : Float32Array.from(plane, (code) => code * scale);
  return { width, height, r: floats(r), g: floats(g), b: floats(b) };
}

/** A copy of a picture with the touched pixels encoded anew from their light. */
function encodedWhere(
  codes: CodePicture,
  linear: LinearPlanes,
  touched: Uint32Array,
  encoding: Encoding,
  tables: Tables,
): CodePicture {
  const gathered = (plane: Float32Array) => {
    const out = new Float32Array(touched.length);
    for (let k = 0; k < touched.length; k++) out[k] = plane[touched[k]!]!;
    return out;
  };
  const light = { r: gathered(linear.r), g: gathered(linear.g), b: gathered(linear.b) };
  const encoded = encodedFromLinear709(light, encoding, tables.encode(encoding));
  const replaced = (plane: CodePlane, values: Float32Array) => {
    const out = plane.slice();
    const next = codesFromEncoded(plane, values);
    for (let k = 0; k < touched.length; k++) out[touched[k]!] = next[k]!;
    return out;
  };
  const { width, height, r, g, b } = codes;
  return { width, height, r: replaced(r, encoded.r), g: replaced(g, encoded.g), b: replaced(b, encoded.b) };
}

/** A sighting measured on one frame. */
export interface SightingMeasurement {
  /** The piece's colour in the source. `clippedShare`: of its pixels, those whose source has no more to give. */
  before: Measurement;
  /** The same after the recolour. `clippedShare`: those that the recolour has driven past the end of the code range. */
  after: Measurement;
  /** How much of what looks like the piece is selected; see measure/coverage. */
  coverage: number;
}

/**
 * The piece's colour in the source and after the recolour, from the same pixels: those clipped in the source are left
 * out of both. `known` is what has been measured of the same matte already. Undefined where there is nothing to
 * measure.
 */
export function measureSighting(
  source: SourceFrame,
  recoloured: RecolouredFrame,
  index: number,
  known?: Pick<SightingMeasurement, 'before' | 'coverage'>,
): SightingMeasurement | undefined {
  const isClipped = clippingOf(source.codes);
  const alpha = recoloured.mattes[index]!;
  const before = known?.before ?? measurePiece(source.linear(), alpha, isClipped);
  const encoded = asEncoded(recoloured.linear, alpha, source.encoding);
  const after = measurePiece(encoded, alpha, isClipped, recoloured.sheens[index]);
  if (!before || !after) return undefined;
  const { width, height } = source.codes;
  const coverage = known?.coverage ?? coverageOf(source.oklab(), alpha, width, height);
  const clippedShare = clippedByRecolour(recoloured.linear, alpha, source.encoding);
  return { before, after: { ...after, clippedShare }, coverage };
}

/** The light of a piece as its codes will hold it: what lies past either end is cut off. Other pixels are left. */
function asEncoded(linear: LinearPlanes, alpha: Float32Array, encoding: Encoding): LinearPlanes {
  const isPast = pastEnds(encoding, 0);
  const clamp = clampToCodes(encoding);
  const out: LinearPlanes = { r: linear.r.slice(), g: linear.g.slice(), b: linear.b.slice() };
  for (let i = 0; i < alpha.length; i++) {
    if (alpha[i]! < MEASURED_ALPHA || !isPast(linear.r[i]!, linear.g[i]!, linear.b[i]!)) continue;
    [out.r[i], out.g[i], out.b[i]] = clamp([linear.r[i]!, linear.g[i]!, linear.b[i]!]);
  }
  return out;
}

/** Half an 8-bit code past either end: nearer is rounding. */
const PAST = 0.5 / 255;

/** Of the pixels with α ≥ 0.9, the share that some channel's code would lie beyond 0..1 and is cut off when encoded. */
function clippedByRecolour({ r, g, b }: LinearPlanes, alpha: Float32Array, encoding: Encoding): number {
  const isPast = pastEnds(encoding, PAST);
  let [clipped, all] = [0, 0];
  for (let i = 0; i < alpha.length; i++) {
    if (alpha[i]! < MEASURED_ALPHA) continue;
    all++;
    if (isPast(r[i]!, g[i]!, b[i]!)) clipped++;
  }
  return all === 0 ? 0 : clipped / all;
}

/** Tells whether a pixel's code sits at the end of its range: any channel at the top, or all at the bottom. */
export function clippingOf({ r, g, b }: CodePicture): (index: number) => boolean {
  const top = maxCodeOf(r);
  return (i) => r[i]! >= top || g[i]! >= top || b[i]! >= top || (r[i] === 0 && g[i] === 0 && b[i] === 0);
}
