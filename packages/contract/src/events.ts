import { z } from 'zod';
import { CarriedNews } from './carrying.ts';
import { PersonId, ShotId, SightingId } from './ids.ts';
import { RunResult } from './track.ts';
import { Job } from './work.ts';

/** At which shot an open page is; the page chooses its id when it asks for events. */
export const Here = z.object({ page: z.uuid(), shotId: ShotId.nullable() });
export type Here = z.infer<typeof Here>;
const Presence = Here.extend({ personId: PersonId, name: z.string() });
export type Presence = z.infer<typeof Presence>;

/** What the server tells those who have a project open, by the name of the server-sent event. */
export const EVENTS = {
  /** Something was edited, undone or redone; `seq` is the change's place in the log. */
  change: z.object({ seq: z.number().int() }),
  /** A job was queued, has got on, or has ended. */
  job: Job,
  measuring: z.object({ sightingId: SightingId, done: z.number().int(), total: z.number().int() }),
  measured: z.object({ sightingId: SightingId }),
  /** A review was sent or withdrawn, a note written or ticked off, something approved or sent back. */
  reviewed: z.object({}),
  /** Frames that a track has just found. */
  tracking: RunResult,
  /** A frame that a selection was just carried to. */
  carrying: CarriedNews,
  /** The server itself was cut off for a while: whatever was told meanwhile is lost, so look again. */
  missed: z.object({}),
  /**
   * How many have the project open, the one who is told counted too; and where people sign in, who they are and at
   * which shot, by the page that each has open.
   */
  present: z.object({ here: z.number().int().positive(), people: z.array(Presence).default([]) }),
} as const;
export type EventName = keyof typeof EVENTS;
export type EventData<E extends EventName> = z.infer<(typeof EVENTS)[E]>;
