// What goes into looking at a file, what comes out, and how it is refused.
import type { ImportOptions, Media } from '@mellow/contract';
import { Refused } from '../errors.ts';

export interface ProbeInput {
  path: string;
  /** First number of an image sequence; null for a video file. */
  startNumber: number | null;
  /** Rate of an image sequence. */
  fps?: { num: number; den: number };
  /** How the user knows it, for messages. */
  name: string;
  timing: NonNullable<ImportOptions['timing']>;
  /** The files of an image sequence, in order; a video is its own. */
  files: readonly string[];
}
export interface Probed {
  described: Described;
  /** Seconds from the container's start to the first frame, where frames can be sought by their time. */
  firstFrameSeconds: number | null;
  /** Its timestamps are uneven, and its frames are taken one by one. */
  oneByOne: boolean;
}
/** A media but for who it is. */
type Described = Omit<Media, 'id' | 'sha256' | 'name' | 'kind'>;

/** The refusal of a file, naming it as the user knows it. */
export const refusedMedia = (name: string, why: string): Refused =>
  new Refused('refused-media', `“${name}” was not imported: ${why}`, [{ path: name, message: why }]);
