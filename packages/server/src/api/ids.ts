import { z } from 'zod';
import { NotFound } from '../errors.ts';

/** A path parameter that must be a UUID: anything else cannot exist. */
export function assertId(what: string, id: string | undefined): string {
  if (!z.uuid().safeParse(id).success) throw new NotFound(what, String(id));
  return id!;
}
