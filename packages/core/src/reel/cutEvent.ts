// A cut list, whatever file it came in: the stretches of footage that a reel is made of.

/** The part of footage that an event shows. */
export type CutSource =
  /** First timecode and the one behind the last. */
  | { by: 'timecode'; in: string; out: string }
  /** First frame and the one behind the last, at a rate, counted as the footage counts. */
  | {
      by: 'frames';
      rate: number;
      in: number;
      out: number;
      /** The number of the footage's first frame, where the list says it. */
      first?: number;
    }
  | { by: 'all' };

/** One event of the picture, in the order of the reel. */
export interface CutEvent {
  /** Where it stands in the file, in words. */
  where: string;
  /** What its shot is called. */
  name: string;
  /** Names by which its footage may be known, the surest first. */
  footage: readonly string[];
  source: CutSource;
  /** Why it cannot be taken over; left out: it can. */
  whyNot?: string;
}
export interface CutList {
  title: string;
  events: CutEvent[];
  /** What else of the file is not taken over, in whole sentences. */
  notes: string[];
}

/** What is wrong with a cut list; its message begins with the line, or the path, of it. */
export class CutListError extends Error {}
