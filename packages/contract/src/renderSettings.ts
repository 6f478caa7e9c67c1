import { z } from 'zod';
import { NamePattern } from './naming.ts';
import { Name } from './text.ts';
import { Preset } from './work.ts';

/** How shots are rendered, whichever they are. */
export const RenderSettings = z.object({
  preset: Preset,
  withLook: z.boolean(),
  burnIn: z.boolean(),
  handles: z.number().int().min(0).max(1000),
  namePattern: NamePattern,
  /** Into the server's render folder too. */
  toFolder: z.boolean().default(false),
});
export type RenderSettings = z.infer<typeof RenderSettings>;
/** The same under a name of one's own. */
export const KeptSettings = RenderSettings.extend({ name: Name });
export type KeptSettings = z.infer<typeof KeptSettings>;
