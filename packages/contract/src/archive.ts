// A project in one zip, to be kept or opened elsewhere: what is in it, by its names.
import { z } from 'zod';
import { ChangeEntry } from './change.ts';
import { Sha256 } from './entities.ts';
import { EntityKind, ENTITIES } from './kinds.ts';
import { Media } from './media.ts';
import { ProjectDocument } from './projectDocument.ts';
import { Note, SentPage, StandingVerdict } from './review.ts';
import { FrameNumber } from './animation.ts';
import { ReviewId, RunId } from './ids.ts';
import { RunResult } from './track.ts';

export const ARCHIVE_FORMAT = 'mellow-hue-project';
/** Raised when an older program could not read what this one writes. */
export const ARCHIVE_VERSION = 3;
/** Paths in the zip. */
export const ARCHIVE_PATHS = {
  manifest: 'manifest.json',
  project: 'project.json',
  history: 'history.json',
  /** Files of a media lie in a folder of its hash. */
  media: (sha256: string, file: string) => `media/${sha256}/${file}`,
  cube: (sha256: string) => `cubes/${sha256}.cube`,
} as const;

/** Footage of the project: its files, in order, and whether they are in the zip or only named. */
export const ArchivedMedia = z.object({
  media: Media,
  isIncluded: z.boolean(),
  files: z.array(z.object({ name: z.string().min(1).max(255), sha256: Sha256, bytes: z.number().int().min(0) })).min(1),
  /** As it is opened: a file's name, or a printf pattern with the number it begins at. */
  input: z.string().min(1).max(255),
  startNumber: z.number().int().min(0).nullable(),
  firstFrameSeconds: z.number().nullable(),
  /** Its frames were taken one by one, whatever their timestamps say. */
  isOneByOne: z.boolean(),
});
export type ArchivedMedia = z.infer<typeof ArchivedMedia>;
export const ArchiveManifest = z.object({
  format: z.literal(ARCHIVE_FORMAT),
  version: z.number().int().min(1),
  /** Of the program that wrote it. */
  program: z.string(),
  at: z.iso.datetime(),
  projectName: z.string(),
  media: z.array(ArchivedMedia).max(20_000),
  cubes: z.array(Sha256).max(1000),
});
export type ArchiveManifest = z.infer<typeof ArchiveManifest>;

const ArchivedCarry = z.object({
  runId: RunId,
  isBackward: z.boolean(),
  frames: z.array(
    z.object({ frame: FrameNumber, certainty: z.number().min(0).max(1), mask: z.base64().max(4_000_000) }),
  ),
});
/** All that a project is made of and what was said of it; without pixels and without what is computed again. */
export const ArchivedProject = ProjectDocument.pick({
  project: true,
  shots: true,
  pieces: true,
  colourways: true,
  requirements: true,
  recipes: true,
  sightings: true,
  tracks: true,
  versions: true,
  stills: true,
  plates: true,
}).extend({
  /** What the tracks have found. */
  runs: z.array(RunResult),
  /** What selections were carried to: the masks in Base64. */
  carries: z.array(ArchivedCarry).default([]),
  notes: z.array(Note),
  reviews: z.array(
    z.object({
      id: ReviewId,
      name: z.string(),
      createdAt: z.iso.datetime(),
      expiresAt: z.iso.datetime(),
      page: SentPage,
    }),
  ),
  verdicts: z.array(StandingVerdict),
});
export type ArchivedProject = z.infer<typeof ArchivedProject>;

const kinds = Object.keys(ENTITIES) as EntityKind[];
const loggedEdit = <K extends EntityKind>(kind: K) =>
  z.object({
    kind: z.literal(kind),
    id: z.uuid(),
    before: z.nullable(ENTITIES[kind]),
    after: z.nullable(ENTITIES[kind]),
  });
const [first, ...others] = kinds.map(loggedEdit);
/** The change log, oldest first: undo goes on where it was. */
export const ArchivedHistory = z.array(
  ChangeEntry.omit({ seq: true }).extend({
    edits: z.array(z.discriminatedUnion('kind', [first!, ...others])),
    revisions: z.record(z.uuid(), z.number().int()),
  }),
);
export type ArchivedHistory = z.infer<typeof ArchivedHistory>;
