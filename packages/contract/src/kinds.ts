import { z } from 'zod';
import { Colourway, Piece, Project, Recipe, RecipeVersion, Requirement, Shot, Sighting } from './entities.ts';
import { Still } from './still.ts';
import { Track } from './track.ts';

/** Everything that is edited through the change log, by kind. */
export const ENTITIES = {
  project: Project,
  shot: Shot,
  piece: Piece,
  colourway: Colourway,
  requirement: Requirement,
  recipe: Recipe,
  sighting: Sighting,
  track: Track,
  version: RecipeVersion,
  still: Still,
} as const;
export type EntityKind = keyof typeof ENTITIES;
export const EntityKind = z.enum(Object.keys(ENTITIES) as [EntityKind, ...EntityKind[]]);
export type Entity<K extends EntityKind = EntityKind> = z.infer<(typeof ENTITIES)[K]>;

/** An entity as stored, with the revision that the next edit of it must name. */
export const stored = <T extends z.ZodType>(value: T) => z.object({ value, revision: z.number().int().min(1) });
export interface Stored<T> {
  value: T;
  revision: number;
}
