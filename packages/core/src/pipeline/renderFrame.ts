import type { Encoding } from '../colour/encoding.ts';
import { gatheredLight, planeOf, type LinearPlanes } from '../colour/planes.ts';
import { boundsOfFinished, NOWHERE, type PixelBox } from '../matte/bounds.ts';
import { findSpill, type SpillMap } from '../matte/spill.ts';
import type { Spill } from '../document/cleaning.ts';
import type { SheenShown } from '../measure/measurePiece.ts';
import { bounceInto } from '../recolour/bounceInto.ts';
import { outsideInto, outsideOf } from '../recolour/outsideInto.ts';
import type { Program } from '../recolour/program.ts';
import { recolourInto } from '../recolour/recolourInto.ts';
import { sheenOf } from '../recolour/sheen.ts';
import { removeSpillInto } from '../recolour/spillInto.ts';
import { textureInto } from '../recolour/textureInto.ts';
import { groupsOf, joinedCodes, joinedFrame, type Apart } from './apart.ts';
import { edgeOf } from './edgeOf.ts';
import { encodedWhere } from './encodedWhere.ts';
import { frameMatte } from './frameMatte.ts';
import { maxCodeOf, type CodePicture, type CodePlane } from './picture.ts';
import { plainCodes } from './plainCodes.ts';
import { plainLightAt, plainRecolours, type PlainRecolour } from './plainFrame.ts';
import { regionOf, selectedBox } from './region.ts';
import { placedCodes, placedFrame } from './regionFrame.ts';
import type { SightingRender } from './sightingRender.ts';
import type { SourceFrame, Tables } from './sourceFrame.ts';

export interface RecolouredFrame {
  /** Linear light after all recolours, before encoding and clamping; of a plain frame made when first asked for. */
  readonly linear: LinearPlanes;
  /** The same at single pixels, given in ascending order: of a plain frame no planes are made for it. */
  lightAt(this: void, pixels: Uint32Array): LinearPlanes;
  /** α of each sighting, in the given order. */
  mattes: Float32Array[];
  /** Spill found outside each matte; undefined where it is off or there is none. */
  readonly spills: (SpillMap | undefined)[];
  /** The sheen on each piece, as recoloured, where it is told apart. */
  readonly sheens: (SheenShown | undefined)[];
  /** Indices of the pixels where a recolour has been at work, ascending. */
  readonly touched: Uint32Array;
}
export interface RenderedFrame extends RecolouredFrame {
  /** Same size, sample type and encoding as the source; made when they are first asked for. */
  readonly codes: CodePicture;
}
type MatteOf = (sighting: SightingRender, index: number) => Float32Array;

/**
 * For each sighting, in order, its matte (keys read the picture before any recolour), its recolour and what it does to
 * the spill, in linear light.
 */
export const recolourFrame = (
  source: SourceFrame,
  sightings: readonly SightingRender[],
  tables: Tables,
  matteOf?: MatteOf,
): RecolouredFrame => recolouredBy(source, sightings, mattesOf(source, sightings, matteOf), tables).recoloured;

const mattesOf = (
  source: SourceFrame,
  sightings: readonly SightingRender[],
  matteOf: MatteOf = ({ layers, cleanUp }) => frameMatte(source, layers, cleanUp),
): Float32Array[] => sightings.map(matteOf);

/** A frame recoloured, and what it was computed of where that is not the whole of it. */
interface Recoloured {
  recoloured: RecolouredFrame;
  /** The recolours of a plain frame. */
  plain?: PlainRecolour[];
  /** The part that was computed, and what it has become. */
  part?: { source: SourceFrame; box: PixelBox; recoloured: RecolouredFrame };
  /** Sightings that were computed apart. */
  apart?: (Apart & { sightings: readonly SightingRender[]; made: Recoloured })[];
}
function recolouredBy(
  source: SourceFrame,
  sightings: readonly SightingRender[],
  mattes: Float32Array[],
  tables: Tables,
): Recoloured {
  const plain = plainRecolours(source, sightings, mattes);
  if (plain) return { recoloured: plainFrame(source, sightings, mattes, plain, tables), plain };
  const groups = groupsOf(source, sightings, mattes);
  if (groups) {
    const apart = groups.map((group) => {
      const own = group.members.map((k) => sightings[k]!);
      const ownMattes = group.members.map((k) => mattes[k]!);
      const made = recolouredBy(source, own, ownMattes, tables);
      return { group, sightings: own, made, recoloured: made.recoloured };
    });
    return { recoloured: joinedFrame(source, mattes, apart), apart };
  }
  const region = regionOf(source, sightings, mattes);
  if (!region) return { recoloured: recolourWhole(source, sightings, mattes, tables) };
  const recoloured = recolourWhole(region.part, sightings, region.mattes, tables);
  return {
    recoloured: placedFrame(source, region, mattes, recoloured),
    part: { source: region.part, box: region.box, recoloured },
  };
}

/** A frame of which nothing is computed yet. */
function plainFrame(
  source: SourceFrame,
  sightings: readonly SightingRender[],
  mattes: Float32Array[],
  recolours: readonly PlainRecolour[],
  tables: Tables,
): RecolouredFrame {
  let whole: RecolouredFrame | undefined;
  const made = () => (whole ??= recolourWhole(source, sightings, mattes, tables));
  return {
    mattes,
    spills: sightings.map(() => undefined),
    sheens: sightings.map(() => undefined),
    lightAt: (pixels) =>
      whole ? gatheredLight(whole.linear, pixels) : plainLightAt(source, recolours, pixels, tables),
    get linear() {
      return made().linear;
    },
    get touched() {
      return made().touched;
    },
  };
}

/** The same over planes of light of the whole frame, made when they are first asked for. */
export function recolourWhole(
  source: SourceFrame,
  sightings: readonly SightingRender[],
  mattes: Float32Array[],
  tables: Tables,
): RecolouredFrame {
  const { width, height } = source.codes;
  let spills: (SpillMap | undefined)[] | undefined;
  const spillsFound = () =>
    (spills ??= sightings.map(({ spill }, i) =>
      spill?.mode === 'remove' ? spillFor(source, mattes[i]!, spill) : undefined,
    ));
  let done: ReturnType<typeof recoloursOf> | undefined;
  const made = () => (done ??= recoloursOf(source, sightings, mattes, spillsFound(), tables));
  return {
    lightAt: (pixels) => gatheredLight(made().linear, pixels),
    mattes,
    get spills() {
      return spillsFound();
    },
    get linear() {
      return made().linear;
    },
    get sheens() {
      return made().sheens;
    },
    // measuring never asks
    get touched() {
      return source.isBalanced ? everyIndex(width * height) : selectedBy(made().atWork, width, height);
    },
  };
}

/** What becomes of the light of a whole frame, the sheens found, and where recolours have been at work. */
function recoloursOf(
  source: SourceFrame,
  sightings: readonly SightingRender[],
  mattes: Float32Array[],
  spills: readonly (SpillMap | undefined)[],
  tables: Tables,
): { linear: LinearPlanes; sheens: (SheenShown | undefined)[]; atWork: Float32Array[] } {
  const { width, height } = source.codes;
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
    const removed = map && { share: map.share, strength: program.strength };
    const others = atWork.filter((plane) => plane !== map?.share);
    const edge = edgeOf(source, linear, mattes[k]!, others, removed, sheen);
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
  return { linear, sheens, atWork };
}

function sheenShown({ sheen, strength }: Program, luminance: Float32Array): SheenShown | undefined {
  return sheen && { luminance, light: sheen.body.light, kept: 1 + strength * (sheen.kept - 1) };
}

/** The spill of a matte on the picture as it came in. */
const spillMaps = new WeakMap<Float32Array, { of: SourceFrame; key: string; map: SpillMap | undefined }>();
function spillFor(source: SourceFrame, alpha: Float32Array, spill: Spill): SpillMap | undefined {
  const key = JSON.stringify(spill);
  const known = spillMaps.get(alpha);
  if (known?.of === source && known.key === key) return known.map;
  const { width, height } = source.codes;
  const map = findSpill(alpha, source.oklabIn, width, height, spill, source.scale);
  spillMaps.set(alpha, { of: source, key, map });
  return map;
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

const everyIndex = (length: number): Uint32Array => Uint32Array.from({ length }, (_, i) => i);

/** Indices of the pixels that any of the mattes selects. */
function selectedBy(mattes: readonly Float32Array[], width: number, height: number): Uint32Array {
  const selected = new Uint8Array(width * height);
  let count = 0;
  for (const matte of mattes) {
    const { x0, y0, x1, y1 } = boundsOfFinished(matte, width, height) ?? NOWHERE;
    for (let y = y0; y < y1; y++)
      for (let i = y * width + x0; i < y * width + x1; i++)
        if (matte[i]! > 0 && selected[i] === 0) {
          selected[i] = 1;
          count++;
        }
  }
  const indices = new Uint32Array(count);
  for (let i = 0, n = 0; n < count; i++) if (selected[i] === 1) indices[n++] = i;
  return indices;
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
  const mattes = mattesOf(source, sightings, matteOf);
  let done: Recoloured | undefined;
  const made = () => (done ??= recolouredBy(source, sightings, mattes, tables));
  let codes: CodePicture | undefined;
  return {
    mattes,
    lightAt: (pixels) => made().recoloured.lightAt(pixels),
    get codes() {
      return (codes ??= codesFrom(source, sightings, made(), tables, { encoding, samples }));
    },
    get spills() {
      return made().recoloured.spills;
    },
    get sheens() {
      return made().recoloured.sheens;
    },
    get linear() {
      return made().recoloured.linear;
    },
    get touched() {
      return made().recoloured.touched;
    },
  };
}

/** The codes of a frame, by the shortest way that there is; which one cannot be told from them. */
function codesFrom(
  source: SourceFrame,
  sightings: readonly SightingRender[],
  { recoloured, plain, part, apart }: Recoloured,
  tables: Tables,
  as: RenderAs,
): CodePicture {
  if (as.encoding !== source.encoding) return codesOf(source, recoloured, tables, as);
  if (apart)
    return joinedCodes(
      apart.map(({ group, sightings: own, made }) => ({ group, codes: codesFrom(source, own, made, tables, as) })),
    );
  const straight = plain && as.samples !== 'float' ? plainCodes(source, plain, tables) : undefined;
  if (straight) return straight;
  const from = as.samples === 'float' ? asFloats(source.codes) : source.codes;
  if (part) return placedCodes(from, codesOf(part.source, part.recoloured, tables, as), part.box);
  const { width, height, r, g, b } = from;
  // frames that the piece is not on are copied
  const isUntouched = plain && !source.isBalanced && !selectedBox(recoloured.mattes, width, height);
  if (isUntouched) return { width, height, r: r.slice(), g: g.slice(), b: b.slice() };
  const region = plain && regionOf(source, sightings, recoloured.mattes);
  if (!region) return codesOf(source, recoloured, tables, as);
  const ofPart = recolourWhole(region.part, sightings, region.mattes, tables);
  return placedCodes(from, codesOf(region.part, ofPart, tables, as), region.box);
}

/** The codes of a frame by way of its planes of light. */
export function codesOf(
  { codes, encoding: from }: SourceFrame,
  { linear, touched: changed }: RecolouredFrame,
  tables: Tables,
  { encoding = from, samples }: RenderAs = {},
): CodePicture {
  const touched = encoding === from ? changed : everyIndex(codes.width * codes.height);
  return encodedWhere(samples === 'float' ? asFloats(codes) : codes, linear, touched, encoding, tables);
}

/** The same codes with 1 for full scale. */
export function asFloats({ width, height, r, g, b }: CodePicture): CodePicture {
  const scale = 1 / maxCodeOf(r);
  const floats = (plane: CodePlane) =>
    plane instanceof Float32Array ? plane : planeOf(plane.length, (i) => plane[i]! * scale);
  return { width, height, r: floats(r), g: floats(g), b: floats(b) };
}
