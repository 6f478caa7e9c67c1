import { z } from 'zod';
import {
  ColourwayId,
  MediaId,
  PieceId,
  ProjectId,
  RecipeId,
  RequirementId,
  ShotId,
  SightingId,
  VersionId,
} from './ids.ts';
import { Animated } from './animation.ts';
import { Curve, Finer, NO_FINER } from './finer.ts';
import { CleanUp, Layer, Spill } from './layer.ts';
import { Span } from './span.ts';
import { Name } from './text.ts';

const name = Name;
const position = z.number().int().min(0);

const rgb = (min: number, max: number) =>
  z.tuple([z.number().min(min).max(max), z.number().min(min).max(max), z.number().min(min).max(max)]);
/** The numbers of an ASC CDL v1.2. */
const cdlNumbers = {
  slope: rgb(0, 8),
  offset: rgb(-1, 1),
  power: rgb(0.1, 8),
  saturation: z.number().min(0).max(4),
};
/** The SHA-256 of a file's bytes, in hexadecimal. */
export const Sha256 = z.string().regex(/^[0-9a-f]{64}$/);
/** A table that was brought in (core/look/table): its entries along a side, or the steps of a CLF. */
export const CubeFile = z.object({
  sha256: Sha256,
  name,
  kind: z.enum(['1D', '3D', 'CLF']),
  size: z.number().int().min(0),
});
export type CubeFile = z.infer<typeof CubeFile>;
const LookCurves = z.object({ tone: Curve, red: Curve, green: Curve, blue: Curve });
/** The overall correction after all recolours, on the codes of a shot's encoding: a CDL, then curves, then a table. */
export const Look = z.object({
  cdl: z.object(cdlNumbers).nullable(),
  curves: LookCurves.nullable().default(null),
  cube: CubeFile.nullable(),
});
export type Look = z.infer<typeof Look>;
/** The look of every shot that has none of its own; on or off for all of them. */
export const ProjectLook = Look.extend({ isOn: z.boolean() });
export type ProjectLook = z.infer<typeof ProjectLook>;
/** One job: its shots, its pieces. `tolerance` is the ΔE00 up to which a piece matches its requirement. */
export const Project = z.object({
  id: ProjectId,
  name,
  tolerance: z.number().positive().max(20),
  referenceShotId: ShotId.nullable(),
  /** Null: none. */
  look: ProjectLook.nullable().default(null),
  /** Through what pictures are judged on the screen, after the look; it is never rendered. */
  viewTable: CubeFile.nullable().default(null),
});
export type Project = z.infer<typeof Project>;

export const Encoding = z.enum([
  'srgb',
  'rec709',
  'display-p3',
  'rec2020',
  'rec2100-pq',
  'rec2100-hlg',
  'linear709',
  'linear-p3',
  'linear2020',
  'aces2065-1',
  'acescg',
  'acescct',
  'logc3',
  'logc4',
  'slog3-cine',
  'slog3',
  'vlog',
  'log3g10',
  'canon-log2',
  'canon-log3',
  'slog2',
  'f-log',
  'f-log2',
  'n-log',
  'd-log',
  'apple-log',
]);
export type Encoding = z.infer<typeof Encoding>;
/** A shot's base correction; see core/light/balance. */
export const Balance = z.object({
  exposureStops: z.number().min(-8).max(8),
  warmthMired: z.number().min(-60).max(90),
  ...cdlNumbers,
});
export type Balance = z.infer<typeof Balance>;
/** A light against the reference shot's: mired warmer, thousandths of Duv greener, stops lighter. */
export const LightByHand = z.object({
  warmthMired: z.number().min(-60).max(90),
  tint: z.number().min(-50).max(50),
  exposureStops: z.number().min(-8).max(8),
});
export type LightByHand = z.infer<typeof LightByHand>;
const entry = z.number().min(-100).max(100);
/**
 * How a shot's light differs from the reference shot's: a 3×3 on linear BT.709, row by row, and how it was found; see
 * core/light/shotLight.
 */
export const ShotLight = z.object({
  how: z.enum(['neutral', 'probe', 'both', 'patches', 'hand']),
  /** What was set by hand, of which the matrix was made. */
  byHand: LightByHand.optional(),
  matrix: z
    .tuple([entry, entry, entry, entry, entry, entry, entry, entry, entry])
    .refine(([a, b, c, d, e, f, g, h, i]) => a * (e * i - f * h) - b * (d * i - f * g) + c * (d * h - e * g) > 1e-6, {
      message: 'must be a light that can be undone',
    }),
});
export type ShotLight = z.infer<typeof ShotLight>;
const pixel = z.number().min(-100_000).max(100_000);
/**
 * A place in a shot whose like is seen in the reference shot, under the same name; full-resolution pixels. A neutral
 * one is grey in itself, and tells the light by itself.
 */
export const Patch = z.object({
  name: z.string().trim().min(1).max(20),
  isNeutral: z.boolean(),
  frame: z.number().int().min(0),
  x0: pixel,
  y0: pixel,
  x1: pixel,
  y1: pixel,
});
export type Patch = z.infer<typeof Patch>;
/** A shot in the reel; `position` is its place there. No balance: the picture as it came in. */
export const Shot = z.object({
  id: ShotId,
  projectId: ProjectId,
  mediaId: MediaId,
  name,
  position,
  encoding: Encoding,
  balance: Balance.nullable().default(null),
  /** Null: the reference shot's. */
  light: ShotLight.nullable().default(null),
  patches: z.array(Patch).max(30).default([]),
  /** The frames of its footage that it shows; null: all. */
  span: Span.nullable().default(null),
  /** Null: the project's. */
  look: Look.nullable().default(null),
});
export type Shot = z.infer<typeof Shot>;
/** What a shot is looked at through, on or off. */
export const lookOfShot = (project: Pick<Project, 'look'>, shot: Pick<Shot, 'look'>): Look | null =>
  shot.look ?? project.look;

export const PieceKind = z.enum(['product', 'garment', 'vehicle', 'prop']);
export type PieceKind = z.infer<typeof PieceKind>;
/** The thing to recolour; `position` is the order in which pieces are recoloured. */
export const Piece = z.object({
  id: PieceId,
  projectId: ProjectId,
  name,
  kind: PieceKind,
  position,
  /** The piece that this is a part of, with a colour of its own: the sleeves of a garment. */
  partOf: PieceId.nullable().default(null),
});
export type Piece = z.infer<typeof Piece>;

/** One alternative set of requirements for all pieces. */
export const Colourway = z.object({ id: ColourwayId, projectId: ProjectId, name, position });
export type Colourway = z.infer<typeof Colourway>;

/** CIELAB 1976, L* 0..100. */
export const Lab = z.object({
  L: z.number().min(0).max(100),
  a: z.number().min(-200).max(200),
  b: z.number().min(-200).max(200),
});
export type Lab = z.infer<typeof Lab>;
export const Illuminant = z.enum(['D65', 'D50']);
export type Illuminant = z.infer<typeof Illuminant>;
/** The colour a piece must have: Lab under `illuminant`; `tolerance` (ΔE00) overrides the project's. */
export const Requirement = z.object({
  id: RequirementId,
  projectId: ProjectId,
  pieceId: PieceId,
  colourwayId: ColourwayId,
  name,
  lab: Lab,
  illuminant: Illuminant,
  tolerance: z.number().positive().max(20).nullable(),
  note: z.string().max(2000).default(''),
  /** The shot in which the piece as filmed has this colour; null: it was stated otherwise. */
  asInShotId: ShotId.nullable().default(null),
  /** Of what it is required: the mean of the piece, or its body, without sheen, where that is told apart. */
  of: z.enum(['mean', 'body']).default('mean'),
});
export type Requirement = z.infer<typeof Requirement>;

/** See core/recolour/shift for what each number means. */
export const Shift = z.object({
  exposureStops: z.number().min(-8).max(8),
  hueDeg: z.number().min(-36_000).max(36_000),
  saturation: z.number().min(0).max(4),
  density: z.number().min(-2).max(2),
});
export type Shift = z.infer<typeof Shift>;
/** Factors on the cone response; see core/recolour/program. */
export const Gain = z.object({
  long: z.number().min(0.001).max(1000),
  middle: z.number().min(0.001).max(1000),
  short: z.number().min(0.001).max(1000),
});
export type Gain = z.infer<typeof Gain>;
/** Is sheen kept apart, and how much of it put back; see core/recolour/sheen. */
export const Repaint = z.object({ on: z.boolean(), sheen: z.number().min(0).max(2) });
export type Repaint = z.infer<typeof Repaint>;
/** What tells sheen from body in a piece in one shot. */
export const SheenBody = z.object({
  invariant: z.number().min(-100).max(100),
  direction: z.union([z.literal(1), z.literal(-1)]),
  confidence: z.number().min(0).max(1),
  light: z.tuple([z.number().min(0).max(100), z.number().min(0).max(100), z.number().min(0).max(100)]),
  slope: z.number().min(0).max(10),
});
export type SheenBody = z.infer<typeof SheenBody>;
/** What is laid on top of a recipe in one shot. */
export const Trim = z.object({ gain: Gain, shift: Shift });
export type Trim = z.infer<typeof Trim>;
/** The numbers of a recipe. */
export const RecipeNumbers = z.object({
  match: Gain.default({ long: 1, middle: 1, short: 1 }),
  repaint: Repaint.default({ on: false, sheen: 1 }),
  shift: Shift,
  finer: Finer.default(NO_FINER),
  strength: z.number().min(0).max(1),
});
export type RecipeNumbers = z.infer<typeof RecipeNumbers>;
/**
 * What a piece's colour becomes in a colourway; shared by all its sightings. `animated`: keyframes of its numbers, by
 * dotted name, within a shot.
 */
export const Recipe = RecipeNumbers.extend({
  id: RecipeId,
  projectId: ProjectId,
  pieceId: PieceId,
  colourwayId: ColourwayId,
  animated: z.record(ShotId, Animated).default({}),
});
export type Recipe = z.infer<typeof Recipe>;

export const SightingState = z.enum(['rough', 'ready', 'approved']);
export type SightingState = z.infer<typeof SightingState>;
/**
 * One piece in one shot: its matte stack, top first, the clean-up of the whole, and what becomes of the spill. Null:
 * none.
 */
export const Sighting = z.object({
  id: SightingId,
  projectId: ProjectId,
  pieceId: PieceId,
  shotId: ShotId,
  layers: z.array(Layer).max(100),
  cleanUp: CleanUp.nullable().default(null),
  spill: Spill.nullable().default(null),
  /** Keyframes of `cleanUp.…` and `spill.…`. */
  animated: Animated.default({}),
  /** Frames on either side that the finished matte is steadied over; see core/matte/steady. */
  steadyFrames: z.number().int().min(0).max(5).default(0),
  /** What is laid on top of the piece's recipes here, by colourway. */
  trims: z.record(ColourwayId, Trim).default({}),
  /** Null: no sheen has been looked for, and none is kept apart here. */
  body: SheenBody.nullable().default(null),
  /** How far its matte and colour are, as the colorist says. */
  state: SightingState.default('rough'),
});
export type Sighting = z.infer<typeof Sighting>;

/** A recipe kept under a name, to come back to. */
export const RecipeVersion = z.object({
  id: VersionId,
  projectId: ProjectId,
  pieceId: PieceId,
  colourwayId: ColourwayId,
  name,
  numbers: RecipeNumbers,
  animated: Recipe.shape.animated,
});
export type RecipeVersion = z.infer<typeof RecipeVersion>;
