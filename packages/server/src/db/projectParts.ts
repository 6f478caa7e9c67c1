import type { ProjectDocument } from '@mellow/contract';
import type * as entities from './entities.ts';

/** What a project is made of, in an order in which nothing names what is not there yet. */
export const PARTS = [
  'shots',
  'pieces',
  'colourways',
  'requirements',
  'recipes',
  'sightings',
  'tracks',
  'versions',
  'stills',
] as const satisfies readonly (keyof ProjectDocument & keyof typeof entities)[];

const UUID = /[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}/g;

/** A value with other names for ids, wherever in it they stand; those that have none stay. */
export function renamed<T>(value: T, names: ReadonlyMap<string, string>): T {
  return JSON.parse(JSON.stringify(value).replaceAll(UUID, (id) => names.get(id) ?? id)) as T;
}
