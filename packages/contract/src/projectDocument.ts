import { z } from 'zod';
import { Certainties } from './carrying.ts';
import { History } from './change.ts';
import { Colourway, Piece, Project, Recipe, RecipeVersion, Requirement, Shot, Sighting } from './entities.ts';
import { stored } from './kinds.ts';
import { Still } from './still.ts';
import { MediaId, ProjectId, RunId } from './ids.ts';
import { Role } from './people.ts';
import { Track } from './track.ts';
import { Media, ProxyState } from './media.ts';

/** Everything about a project that an interface needs to start: small, without pixels or measurements. */
export const ProjectDocument = z.object({
  project: stored(Project),
  shots: z.array(stored(Shot)),
  pieces: z.array(stored(Piece)),
  colourways: z.array(stored(Colourway)),
  requirements: z.array(stored(Requirement)),
  recipes: z.array(stored(Recipe)),
  sightings: z.array(stored(Sighting)),
  tracks: z.array(stored(Track)),
  versions: z.array(stored(RecipeVersion)),
  stills: z.array(stored(Still)),
  /** How many frames each run of the tracks has found: what depends on a track depends on these. */
  trackedFrames: z.record(RunId, z.number().int()),
  /** What each pass of the carried selections has found. */
  carried: z.record(RunId, Certainties),
  /** Footage of the shots and of the plates. */
  media: z.array(Media),
  /** Media brought in as mattes, without a shot. */
  plates: z.array(MediaId),
  proxies: z.record(MediaId, ProxyState),
  history: History,
  /** What who asks may do in it. */
  role: Role.default('editor'),
});
export type ProjectDocument = z.infer<typeof ProjectDocument>;

/** Where a project lies among the others; what is removed can be brought back. */
export const ProjectState = z.enum(['open', 'archived', 'removed']);
export type ProjectState = z.infer<typeof ProjectState>;

export const ProjectCard = z.object({
  id: ProjectId,
  name: z.string(),
  shots: z.number().int(),
  updatedAt: z.iso.datetime(),
  state: ProjectState,
  /** The middle frame of its first shot; null without shots. */
  poster: z.object({ mediaId: MediaId, frame: z.number().int() }).nullable(),
  /** What who asks may do in it. */
  role: Role.default('editor'),
  pieces: z.array(z.object({ name: z.string(), from: z.string().nullable(), to: z.string().nullable() })),
});
export type ProjectCard = z.infer<typeof ProjectCard>;

/** A zip that was opened: the new project, and the footage that was neither in it nor here. */
export const OpenedArchive = z.object({ id: ProjectId, missing: z.array(z.string()) });
export type OpenedArchive = z.infer<typeof OpenedArchive>;
