// What is sent to be looked at by who decides, and what is said of it. It stands outside the change log: nobody's undo
// takes back what another has said.
import { z } from 'zod';
import { FrameNumber } from './animation.ts';
import { ColourwayId, DeliveryId, NoteId, ProjectId, ReviewId, ShotId, SightingId } from './ids.ts';
import { Rate } from './media.ts';
import { Name } from './text.ts';
import { JobState } from './work.ts';

/** Days that a link may be good for. */
const MOST_DAYS = 90;
export const NewReview = z.object({
  name: Name,
  shotIds: z.array(ShotId).min(1).max(200),
  colourwayIds: z.array(ColourwayId).min(1).max(12),
  daysValid: z.number().int().min(1).max(MOST_DAYS),
  /** Each shot through its look, whether looks are on or off. */
  withLook: z.boolean().default(false),
});
export type NewReview = z.infer<typeof NewReview>;

/** A film of a review: a shot in a colourway, or as filmed where that is null. */
export const ReviewFile = z.object({
  deliveryId: DeliveryId,
  shotId: ShotId,
  colourwayId: ColourwayId.nullable(),
  state: JobState,
  /** Frames that are rendered, and all. */
  done: z.number().int().min(0),
  total: z.number().int().min(0),
});
export type ReviewFile = z.infer<typeof ReviewFile>;
export const Review = z.object({
  id: ReviewId,
  projectId: ProjectId,
  name: z.string(),
  /** What its link ends with: who has it may look, write notes and decide until it expires. */
  token: z.string(),
  createdAt: z.iso.datetime(),
  expiresAt: z.iso.datetime(),
  isOpen: z.boolean(),
  files: z.array(ReviewFile),
});
export type Review = z.infer<typeof Review>;

/** A place in the picture: 0..1 of its width and of its height. */
const Spot = z.tuple([z.number().min(0).max(1), z.number().min(0).max(1)]);
export type Spot = z.infer<typeof Spot>;
/** Lines drawn over the frame, each a run of places. */
const Drawing = z.array(z.array(Spot).min(2).max(400)).max(40);
const NoteText = z.string().trim().min(1).max(2000);
/** Who says it, as they call themselves. */
const Who = z.string().trim().min(1).max(60);
export const NewNote = z.object({
  id: NoteId,
  shotId: ShotId,
  /** Null: whatever the colourway. */
  colourwayId: ColourwayId.nullable(),
  frame: FrameNumber,
  text: NoteText,
  who: Who,
  /** Where it is pinned; null: to the frame as a whole. */
  spot: Spot.nullable().default(null),
  drawing: Drawing.default([]),
});
export type NewNote = z.infer<typeof NewNote>;
export const Note = NewNote.extend({
  /** Null: written inside the house. */
  reviewId: ReviewId.nullable(),
  at: z.iso.datetime(),
  isSettled: z.boolean(),
});
export type Note = z.infer<typeof Note>;

export const Decision = z.enum(['approved', 'sent back']);
export type Decision = z.infer<typeof Decision>;
export const NewVerdict = z.object({
  id: z.uuid(),
  sightingId: SightingId,
  colourwayId: ColourwayId,
  decision: Decision,
  who: Who,
  text: z.string().trim().max(2000).default(''),
});
export type NewVerdict = z.infer<typeof NewVerdict>;
export const Verdict = NewVerdict.extend({ reviewId: ReviewId, at: z.iso.datetime() });
export type Verdict = z.infer<typeof Verdict>;
/** `holds`: what it was said of is what would be rendered now; matte, recolour and footage are as they were sent. */
export const StandingVerdict = Verdict.extend({ holds: z.boolean() });
export type StandingVerdict = z.infer<typeof StandingVerdict>;

/** What was sent, as it was then: names and sizes stay what they were. */
export const SentPage = z.object({
  projectName: z.string(),
  colourways: z.array(z.object({ id: ColourwayId, name: z.string() })),
  shots: z.array(
    z.object({
      id: ShotId,
      name: z.string(),
      width: z.number().int().positive(),
      height: z.number().int().positive(),
      fps: Rate,
      /** The number of its first frame, and how many there are. */
      firstFrame: FrameNumber,
      frames: z.number().int().positive(),
      /** Of its first frame; null where its footage has none. */
      timecode: z.string().nullable(),
      /** What is isolated in it. */
      sightings: z.array(z.object({ id: SightingId, name: z.string() })),
    }),
  ),
});
export type SentPage = z.infer<typeof SentPage>;
/** The film of an earlier review in which a piece of its shot was approved, in its colourway. */
export const ApprovedFile = ReviewFile.extend({ reviewName: z.string() });
export type ApprovedFile = z.infer<typeof ApprovedFile>;
/** A review as its client sees it: nothing of the project but what was sent, and what was approved before. */
export const ReviewPage = SentPage.extend({
  name: z.string(),
  expiresAt: z.iso.datetime(),
  files: z.array(ReviewFile),
  /** The last that was approved of each shot in each colourway, frame for frame the same part of it. */
  approved: z.array(ApprovedFile),
  notes: z.array(Note),
  /** The last of each sighting in each colourway. */
  verdicts: z.array(Verdict),
});
export type ReviewPage = z.infer<typeof ReviewPage>;
