import { z } from 'zod';
import { ChangeAnswer, ChangeEntry, ChangeRequest, HistoryStep } from './change.ts';
import { CubeFile } from './entities.ts';
import { EVENTS } from './events.ts';
import { ColourwayId, MediaId, ProjectId, ShotId } from './ids.ts';
import { FolderEntry, FootageFault, FoundCut, ImportOptions, Media, Reading } from './media.ts';
import { NamePattern } from './naming.ts';
import { RefusedFile } from './problem.ts';
import { OpenedArchive, ProjectCard, ProjectDocument, ProjectState } from './projectDocument.ts';
import { Note, NewNote, NewReview, NewVerdict, Review, ReviewPage, StandingVerdict } from './review.ts';
import { Name } from './text.ts';
import { RunResult, TrackRequest } from './track.ts';
import { Delivery, Job, Preset, SightingMeasurements } from './work.ts';

interface Route {
  method: 'get' | 'post';
  /** OpenAPI path with {parameters}. */
  path: string;
  summary: string;
  body?: z.ZodType;
  query?: z.ZodObject;
  /** JSON answer; left out for files and event streams, whose media type is named instead. */
  answer?: z.ZodType;
  produces?: string;
  consumes?: string;
  status?: number;
}

/** What came in, and what did not with the reason: each file (or numbered sequence) stands alone. */
const ImportAnswer = z.object({
  mediaIds: z.array(MediaId),
  shotIds: z.array(ShotId),
  refused: z.array(RefusedFile),
});
export type ImportAnswer = z.infer<typeof ImportAnswer>;
/** `piecesOf`: the project whose pieces, colourways and requirements it begins with; left out: one colourway. */
export const NewProject = z.object({ name: Name, piecesOf: ProjectId.optional() });
export const ImportFromFolder = z.object({
  paths: z.array(z.string().min(1)).min(1).max(200),
  ...ImportOptions.shape,
});
export const RenderRequest = z.object({
  shotIds: z.array(ShotId).min(1).max(500),
  /** Each shot is rendered in each of them; mattes, which are the same in all, once. */
  colourwayIds: z.array(ColourwayId).min(1).max(50),
  preset: Preset,
  /** Each shot through its look, whether looks are on or off. */
  withLook: z.boolean().optional(),
  /** Burns name, timecode and frame into files for review. */
  burnIn: z.boolean().optional(),
  /** Frames more at either end, where the footage has them. */
  handles: z.number().int().min(0).max(1000).optional(),
  /** Leaves out what is rendered already, in this format, and would come out the same. */
  onlyChanged: z.boolean().optional(),
  /** How the files are called; left out: `{shot}_{colourway}`. */
  namePattern: NamePattern.optional(),
  /** Puts the files into the server's render folder too, under a folder of the project's name. */
  toFolder: z.boolean().optional(),
});
export type RenderRequest = z.infer<typeof RenderRequest>;

/** Every endpoint: the server registers from this table, OpenAPI is printed from it, the web reads its types. */
export const ROUTES = {
  health: {
    method: 'get',
    path: '/api/health',
    summary: 'Is the server up and its database reachable?',
    answer: z.object({ ok: z.literal(true), version: z.string() }),
  },
  openapi: {
    method: 'get',
    path: '/api/openapi.json',
    summary: 'This description',
    answer: z.looseObject({ openapi: z.string() }),
  },
  listProjects: { method: 'get', path: '/api/projects', summary: 'All projects', answer: z.array(ProjectCard) },
  createProject: {
    method: 'post',
    path: '/api/projects',
    summary: 'A new project, with one colourway or the pieces and requirements of another',
    body: NewProject,
    answer: z.object({ id: ProjectId }),
    status: 201,
  },
  duplicateProject: {
    method: 'post',
    path: '/api/projects/{projectId}/copies',
    summary: 'Another project with all that this one is made of; footage is shared, the history begins anew',
    answer: z.object({ id: ProjectId }),
    status: 201,
  },
  saveArchive: {
    method: 'get',
    path: '/api/projects/{projectId}/archive',
    summary: 'A project as one zip, with its history; its footage in it, or named by its hashes',
    query: z.object({ footage: z.enum(['included', 'named']).default('included') }),
    produces: 'application/zip',
  },
  openArchive: {
    method: 'post',
    path: '/api/archives',
    summary: 'Upload a project that was saved as a zip: a new project with all of it; field name `files`, one file',
    consumes: 'multipart/form-data',
    answer: OpenedArchive,
    status: 201,
  },
  setProjectState: {
    method: 'post',
    path: '/api/projects/{projectId}/state',
    summary: 'Archives a project, removes it from sight, or brings it back',
    body: z.object({ state: ProjectState }),
    answer: z.object({ state: ProjectState }),
  },
  getProject: {
    method: 'get',
    path: '/api/projects/{projectId}',
    summary: 'A project with all that is edited',
    answer: ProjectDocument,
  },
  change: {
    method: 'post',
    path: '/api/projects/{projectId}/changes',
    summary: 'Edit: all or nothing, undoable',
    body: ChangeRequest,
    answer: ChangeAnswer,
  },
  listChanges: {
    method: 'get',
    path: '/api/projects/{projectId}/changes',
    summary: 'The change log, newest first',
    answer: z.array(ChangeEntry),
  },
  undo: {
    method: 'post',
    path: '/api/projects/{projectId}/undo',
    summary: 'Undo the last change',
    body: HistoryStep,
    answer: ChangeAnswer,
  },
  redo: {
    method: 'post',
    path: '/api/projects/{projectId}/redo',
    summary: 'Redo the change undone last',
    body: HistoryStep,
    answer: ChangeAnswer,
  },
  events: {
    method: 'get',
    path: '/api/projects/{projectId}/events',
    summary: `Server-sent events: ${Object.keys(EVENTS).join(', ')}`,
    produces: 'text/event-stream',
  },
  uploadMedia: {
    method: 'post',
    path: '/api/projects/{projectId}/media',
    summary: 'Upload video files or numbered images; field name `files`, optional `fps` for images',
    consumes: 'multipart/form-data',
    answer: ImportAnswer,
    status: 201,
  },
  uploadPlate: {
    method: 'post',
    path: '/api/projects/{projectId}/plates',
    summary: 'Upload a matte made elsewhere (video or numbered images); field name `files`',
    consumes: 'multipart/form-data',
    answer: ImportAnswer.omit({ shotIds: true }),
    status: 201,
  },
  importFromFolder: {
    method: 'post',
    path: '/api/projects/{projectId}/media/from-folder',
    summary: 'Import from the media folder',
    body: ImportFromFolder,
    answer: ImportAnswer,
    status: 201,
  },
  uploadCube: {
    method: 'post',
    path: '/api/projects/{projectId}/cubes',
    summary: 'Upload a look-up table (Cube LUT Specification 1.0, Common LUT Format 3); field name `files`, one file',
    consumes: 'multipart/form-data',
    answer: CubeFile,
    status: 201,
  },
  cube: {
    method: 'get',
    path: '/api/cubes/{sha256}',
    summary: 'A look-up table as it came in, immutable',
    produces: 'text/plain',
  },
  listFolder: {
    method: 'get',
    path: '/api/media-folder',
    summary: 'What lies in the media folder',
    query: z.object({ path: z.string().default('') }),
    answer: z.array(FolderEntry),
  },
  footageFaults: {
    method: 'get',
    path: '/api/projects/{projectId}/footage-faults',
    summary: 'Footage whose files are missing or have changed since they came in; reads what it has not read yet',
    answer: z.array(FootageFault),
  },
  readMedia: {
    method: 'post',
    path: '/api/projects/{projectId}/media/{mediaId}/readings',
    summary: 'The same footage read in another way, as another media; its frames are made unless they are there',
    body: Reading,
    answer: Media,
  },
  footageCuts: {
    method: 'get',
    path: '/api/media/{mediaId}/cuts',
    summary: 'Where shots begin in footage, found in its pictures; dissolves are not found',
    answer: z.array(FoundCut),
  },
  frame: {
    method: 'get',
    path: '/api/media/{mediaId}/frames/{size}/{frame}',
    summary: 'A frame as PNG, 8 bit code values, immutable; size is proxy, thumb or alpha',
    produces: 'image/png',
  },
  listTracks: {
    method: 'get',
    path: '/api/projects/{projectId}/tracks',
    summary: 'What the runs of all tracks have found, frame by frame',
    answer: z.array(RunResult),
  },
  track: {
    method: 'post',
    path: '/api/projects/{projectId}/track-runs',
    summary: 'Track: adds runs to a track (one undoable step) and starts them',
    body: TrackRequest,
    answer: z.object({ change: ChangeAnswer, job: Job }),
    status: 202,
  },
  listMeasurements: {
    method: 'get',
    path: '/api/projects/{projectId}/measurements',
    summary: 'Measured colours, frame by frame',
    answer: z.array(SightingMeasurements),
  },
  listJobs: {
    method: 'get',
    path: '/api/projects/{projectId}/jobs',
    summary: 'Jobs that are not finished, and the last finished ones',
    answer: z.array(Job),
  },
  cancelJob: { method: 'post', path: '/api/jobs/{jobId}/cancel', summary: 'Cancel a job', answer: Job },
  retryJob: {
    method: 'post',
    path: '/api/jobs/{jobId}/retry',
    summary: 'Start a failed or cancelled job again',
    answer: Job,
  },
  listDeliveries: {
    method: 'get',
    path: '/api/projects/{projectId}/deliveries',
    summary: 'Renders, newest first',
    answer: z.array(Delivery),
  },
  render: {
    method: 'post',
    path: '/api/projects/{projectId}/deliveries',
    summary: 'Render shots in a colourway',
    body: RenderRequest,
    answer: z.array(Delivery),
    status: 202,
  },
  download: {
    method: 'get',
    path: '/api/deliveries/{deliveryId}/file',
    summary: 'The rendered file; PNG sequences as a zip',
    produces: 'application/octet-stream',
  },
  deliveryStill: {
    method: 'get',
    path: '/api/deliveries/{deliveryId}/stills/{still}',
    summary: 'A small picture of the rendered file as PNG, 8 bit code values, numbered from 0 along the shot',
    produces: 'image/png',
  },
  listReviews: {
    method: 'get',
    path: '/api/projects/{projectId}/reviews',
    summary: 'What has been sent for review, newest first',
    answer: z.array(Review),
  },
  sendReview: {
    method: 'post',
    path: '/api/projects/{projectId}/reviews',
    summary: 'Renders shots as they are now, as filmed and in colourways, for a page that a client can be given',
    body: NewReview,
    answer: Review,
    status: 202,
  },
  withdrawReview: {
    method: 'post',
    path: '/api/projects/{projectId}/reviews/{reviewId}/withdrawal',
    summary: 'Ends a review now: its link opens nothing any more, what was said stays',
    answer: Review,
  },
  listVerdicts: {
    method: 'get',
    path: '/api/projects/{projectId}/verdicts',
    summary: 'The last that was said of each sighting in each colourway, and whether it is of what is there now',
    answer: z.array(StandingVerdict),
  },
  listNotes: {
    method: 'get',
    path: '/api/projects/{projectId}/notes',
    summary: 'Notes on frames, newest first',
    answer: z.array(Note),
  },
  addNote: {
    method: 'post',
    path: '/api/projects/{projectId}/notes',
    summary: 'A note on a frame; a repeat with the same id is harmless',
    body: NewNote,
    answer: Note,
    status: 201,
  },
  settleNote: {
    method: 'post',
    path: '/api/projects/{projectId}/notes/{noteId}/settled',
    summary: 'Ticks a note off, or opens it again',
    body: z.object({ isSettled: z.boolean() }),
    answer: Note,
  },
  openReview: {
    method: 'get',
    path: '/api/reviews/{token}',
    summary: 'A review as its client sees it; the token is the right to',
    answer: ReviewPage,
  },
  reviewFile: {
    method: 'get',
    path: '/api/reviews/{token}/files/{deliveryId}',
    summary: 'A film of a review, in parts where a range is asked for',
    produces: 'video/mp4',
  },
  addReviewNote: {
    method: 'post',
    path: '/api/reviews/{token}/notes',
    summary: 'A note of the client’s; a repeat with the same id is harmless',
    body: NewNote,
    answer: Note,
    status: 201,
  },
  addVerdict: {
    method: 'post',
    path: '/api/reviews/{token}/verdicts',
    summary: 'Approves a sighting in a colourway, or sends it back; a repeat with the same id is harmless',
    body: NewVerdict,
    answer: ReviewPage,
    status: 201,
  },
} as const satisfies Record<string, Route>;
export type RouteName = keyof typeof ROUTES;
export type { Route };
type Schema<N extends RouteName, F extends 'body' | 'answer' | 'query'> =
  (typeof ROUTES)[N] extends Record<F, infer S extends z.ZodType> ? z.infer<S> : undefined;
export type BodyOf<N extends RouteName> = Schema<N, 'body'>;
export type AnswerOf<N extends RouteName> = Schema<N, 'answer'>;
