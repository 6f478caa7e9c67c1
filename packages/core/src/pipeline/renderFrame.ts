import { encodedFromLinear709, type Encoding } from '../colour/encoding.ts';
import { planeOf, type LinearPlanes } from '../colour/planes.ts';
import { findSpill, type SpillMap } from '../matte/spill.ts';
import type { SheenShown } from '../measure/measurePiece.ts';
import { bounceInto } from '../recolour/bounceInto.ts';
import { edgeColoursOf, type EdgeColours } from '../recolour/edgeColours.ts';
import { outsideInto, outsideOf } from '../recolour/outsideInto.ts';
import type { Program } from '../recolour/program.ts';
import { recolourInto } from '../recolour/recolourInto.ts';
import { sheenOf } from '../recolour/sheen.ts';
import { removeSpillInto } from '../recolour/spillInto.ts';
import { textureInto } from '../recolour/textureInto.ts';
import { frameMatte } from './frameMatte.ts';
import { codesFromEncoded, maxCodeOf, type CodePicture, type CodePlane } from './picture.ts';
import type { SightingRender } from './sightingRender.ts';
import type { SourceFrame, Tables } from './sourceFrame.ts';

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
export function asFloats({ width, height, r, g, b }: CodePicture): CodePicture {
  const scale = 1 / maxCodeOf(r);
  const floats = (plane: CodePlane) =>
    plane instanceof Float32Array ? plane : planeOf(plane.length, (i) => plane[i]! * scale);
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
