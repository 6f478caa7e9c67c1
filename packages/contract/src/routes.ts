import { z } from 'zod';
import { ChangeAnswer, ChangeEntry, ChangeRequest, HistoryStep } from './change.ts';
import { CubeFile } from './entities.ts';
import { Here } from './events.ts';
import { ColourwayId, DeliveryId, MediaId, ProjectId, ShotId } from './ids.ts';
import { FolderEntry, FootageFault, FoundCut, ImportOptions, Media, Reading } from './media.ts';
import { NamePattern } from './naming.ts';
import {
  Credentials,
  GivenRole,
  Invitation,
  Me,
  Membership,
  NewPerson,
  Password,
  Person,
  PersonChange,
} from './people.ts';
import { RefusedFile } from './problem.ts';
import { KeptSettings } from './renderSettings.ts';
import { OpenedArchive, ProjectCard, ProjectDocument, ProjectState } from './projectDocument.ts';
import { Note, NewNote, NewReview, NewVerdict, Review, ReviewPage, StandingVerdict } from './review.ts';
import { Space } from './space.ts';
import { Name } from './text.ts';
import { CarryRequest } from './carrying.ts';
import { RunResult, TrackRequest } from './track.ts';
import { ImportUploads, SentFile, Upload } from './upload.ts';
import { Delivery, Job, Preset, SightingMeasurements } from './work.ts';

interface Route {
  method: 'get' | 'post' | 'head' | 'patch' | 'delete';
  /** OpenAPI path with {parameters}. */
  path: string;
  body?: z.ZodType;
  /** Of its body; left out: a megabyte. */
  maxBytes?: number;
  query?: z.ZodObject;
  /** JSON answer; left out for files and event streams, whose media type is named instead. */
  answer?: z.ZodType;
  produces?: string;
  consumes?: string;
  /** Headers that say more than the address, and what they say. */
  headers?: Record<string, string>;
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

/** What stands ready where all does; where something does not, the answer is a problem that says what. */
export const Readiness = z.object({
  /** Workers that were heard of within the last seconds, of all machines. */
  workers: z.number().int(),
  running: z.number().int(),
  queued: z.number().int(),
  /** How long the work that has waited longest has waited. */
  oldestQueuedSeconds: z.number().nullable(),
  /** Room on the disk of the media folder. */
  freeBytes: z.number(),
});
export type Readiness = z.infer<typeof Readiness>;

const TUS = { 'Tus-Resumable': 'Version of the protocol: 1.0.0' };

/** Every endpoint: the server registers from this table, OpenAPI is printed from it, the web reads its types. */
export const ROUTES = {
  health: {
    method: 'get',
    path: '/api/health',
    answer: z.object({ ok: z.literal(true), version: z.string() }),
  },
  live: {
    method: 'get',
    path: '/api/health/live',
    answer: z.object({ ok: z.literal(true), version: z.string() }),
  },
  ready: { method: 'get', path: '/api/health/ready', answer: Readiness },
  metrics: { method: 'get', path: '/api/metrics', produces: 'text/plain' },
  openapi: {
    method: 'get',
    path: '/api/openapi.json',
    answer: z.looseObject({ openapi: z.string() }),
  },
  me: { method: 'get', path: '/api/me', answer: Me },
  signIn: { method: 'post', path: '/api/sign-in', body: Credentials, answer: Me },
  signOut: { method: 'post', path: '/api/sign-out', answer: Me },
  signInElsewhere: { method: 'get', path: '/api/sign-in/provider', produces: 'text/html', status: 302 },
  signedInElsewhere: { method: 'get', path: '/api/sign-in/provider/return', produces: 'text/html', status: 302 },
  findInvitation: { method: 'get', path: '/api/invitations/{token}', answer: Person.pick({ name: true, login: true }) },
  acceptInvitation: {
    method: 'post',
    path: '/api/invitations/{token}',
    body: z.object({ password: Password }),
    answer: Me,
  },
  listPeople: { method: 'get', path: '/api/people', answer: z.array(Person) },
  addPerson: { method: 'post', path: '/api/people', body: NewPerson, answer: Invitation, status: 201 },
  changePerson: { method: 'post', path: '/api/people/{personId}', body: PersonChange, answer: Person },
  invite: { method: 'post', path: '/api/people/{personId}/invitations', answer: Invitation, status: 201 },
  listMembers: { method: 'get', path: '/api/projects/{projectId}/people', answer: z.array(Membership) },
  giveRole: {
    method: 'post',
    path: '/api/projects/{projectId}/people',
    body: GivenRole,
    answer: z.array(Membership),
  },
  listProjects: { method: 'get', path: '/api/projects', answer: z.array(ProjectCard) },
  createProject: {
    method: 'post',
    path: '/api/projects',
    body: NewProject,
    answer: z.object({ id: ProjectId }),
    status: 201,
  },
  duplicateProject: {
    method: 'post',
    path: '/api/projects/{projectId}/copies',
    answer: z.object({ id: ProjectId }),
    status: 201,
  },
  saveArchive: {
    method: 'get',
    path: '/api/projects/{projectId}/archive',
    query: z.object({ footage: z.enum(['included', 'named']).default('included') }),
    produces: 'application/zip',
  },
  openArchive: {
    method: 'post',
    path: '/api/archives',
    consumes: 'multipart/form-data',
    answer: OpenedArchive,
    status: 201,
  },
  /** A zip that is here as a whole. */
  openSentArchive: {
    method: 'post',
    path: '/api/archives/sent',
    body: SentFile,
    answer: OpenedArchive,
    status: 201,
  },
  setProjectState: {
    method: 'post',
    path: '/api/projects/{projectId}/state',
    body: z.object({ state: ProjectState }),
    answer: z.object({ state: ProjectState }),
  },
  /** For good, with its log, its renders, and the footage that no other project has or has had. */
  deleteProject: { method: 'delete', path: '/api/projects/{projectId}', answer: z.object({ id: ProjectId }) },
  space: { method: 'get', path: '/api/space', answer: Space },
  getProject: {
    method: 'get',
    path: '/api/projects/{projectId}',
    answer: ProjectDocument,
  },
  change: {
    method: 'post',
    path: '/api/projects/{projectId}/changes',
    body: ChangeRequest,
    maxBytes: 8e6,
    answer: ChangeAnswer,
  },
  listChanges: {
    method: 'get',
    path: '/api/projects/{projectId}/changes',
    answer: z.array(ChangeEntry),
  },
  undo: {
    method: 'post',
    path: '/api/projects/{projectId}/undo',
    body: HistoryStep,
    answer: ChangeAnswer,
  },
  redo: {
    method: 'post',
    path: '/api/projects/{projectId}/redo',
    body: HistoryStep,
    answer: ChangeAnswer,
  },
  /** Tells the others who have the project open at which shot one is. */
  here: {
    method: 'post',
    path: '/api/projects/{projectId}/here',
    body: Here,
    answer: z.object({}),
  },
  events: {
    method: 'get',
    path: '/api/projects/{projectId}/events',
    query: z.object({ page: z.uuid().optional() }),
    produces: 'text/event-stream',
  },
  uploadMedia: {
    method: 'post',
    path: '/api/projects/{projectId}/media',
    consumes: 'multipart/form-data',
    answer: ImportAnswer,
    status: 201,
  },
  uploadPlate: {
    method: 'post',
    path: '/api/projects/{projectId}/plates',
    consumes: 'multipart/form-data',
    answer: ImportAnswer.omit({ shotIds: true }),
    status: 201,
  },
  importFromFolder: {
    method: 'post',
    path: '/api/projects/{projectId}/media/from-folder',
    body: ImportFromFolder,
    answer: ImportAnswer,
    status: 201,
  },
  listUploads: { method: 'get', path: '/api/uploads', answer: z.array(Upload) },
  createUpload: {
    method: 'post',
    path: '/api/uploads',
    consumes: 'application/offset+octet-stream',
    headers: {
      ...TUS,
      'Upload-Length': 'How long the file is, in bytes',
      'Upload-Metadata': 'filename, and lastModified in ms since 1970, as keys and values in Base64',
    },
    produces: 'text/plain',
    status: 201,
  },
  uploadOffset: { method: 'head', path: '/api/uploads/{uploadId}', headers: TUS, produces: 'text/plain' },
  continueUpload: {
    method: 'patch',
    path: '/api/uploads/{uploadId}',
    consumes: 'application/offset+octet-stream',
    headers: { ...TUS, 'Upload-Offset': 'The byte of the file that the body begins with' },
    produces: 'text/plain',
    status: 204,
  },
  dropUpload: {
    method: 'delete',
    path: '/api/uploads/{uploadId}',
    headers: TUS,
    produces: 'text/plain',
    status: 204,
  },
  importUploads: {
    method: 'post',
    path: '/api/projects/{projectId}/media/sent',
    body: ImportUploads,
    maxBytes: 8e6,
    answer: ImportAnswer,
    status: 201,
  },
  uploadCube: {
    method: 'post',
    path: '/api/projects/{projectId}/cubes',
    consumes: 'multipart/form-data',
    answer: CubeFile,
    status: 201,
  },
  cube: {
    method: 'get',
    path: '/api/cubes/{sha256}',
    produces: 'text/plain',
  },
  listFolder: {
    method: 'get',
    path: '/api/media-folder',
    query: z.object({ path: z.string().default('') }),
    answer: z.array(FolderEntry),
  },
  footageFaults: {
    method: 'get',
    path: '/api/projects/{projectId}/footage-faults',
    answer: z.array(FootageFault),
  },
  readMedia: {
    method: 'post',
    path: '/api/projects/{projectId}/media/{mediaId}/readings',
    body: Reading,
    answer: Media,
  },
  footageCuts: {
    method: 'get',
    path: '/api/media/{mediaId}/cuts',
    answer: z.array(FoundCut),
  },
  frame: {
    method: 'get',
    path: '/api/media/{mediaId}/frames/{size}/{frame}',
    produces: 'image/png',
  },
  listTracks: {
    method: 'get',
    path: '/api/projects/{projectId}/tracks',
    answer: z.array(RunResult),
  },
  track: {
    method: 'post',
    path: '/api/projects/{projectId}/track-runs',
    body: TrackRequest,
    answer: z.object({ change: ChangeAnswer, job: Job }),
    status: 202,
  },
  carry: {
    method: 'post',
    path: '/api/projects/{projectId}/carry-runs',
    body: CarryRequest,
    answer: z.object({ change: ChangeAnswer.nullable(), job: Job.nullable() }),
    status: 202,
  },
  carriedFrame: {
    method: 'get',
    path: '/api/projects/{projectId}/carry-runs/{runId}/{frame}',
    produces: 'application/octet-stream',
  },
  listMeasurements: {
    method: 'get',
    path: '/api/projects/{projectId}/measurements',
    answer: z.array(SightingMeasurements),
  },
  listJobs: {
    method: 'get',
    path: '/api/projects/{projectId}/jobs',
    answer: z.array(Job),
  },
  cancelJob: { method: 'post', path: '/api/jobs/{jobId}/cancel', answer: Job },
  retryJob: {
    method: 'post',
    path: '/api/jobs/{jobId}/retry',
    answer: Job,
  },
  listDeliveries: {
    method: 'get',
    path: '/api/projects/{projectId}/deliveries',
    answer: z.array(Delivery),
  },
  render: {
    method: 'post',
    path: '/api/projects/{projectId}/deliveries',
    body: RenderRequest,
    answer: z.array(Delivery),
    status: 202,
  },
  download: {
    method: 'get',
    path: '/api/deliveries/{deliveryId}/file',
    produces: 'application/octet-stream',
  },
  /** The render and its files; a copy in the render folder stays. */
  deleteDelivery: {
    method: 'delete',
    path: '/api/deliveries/{deliveryId}',
    answer: z.object({ id: DeliveryId }),
  },
  deliveryStill: {
    method: 'get',
    path: '/api/deliveries/{deliveryId}/stills/{still}',
    produces: 'image/png',
  },
  listKeptSettings: { method: 'get', path: '/api/render-settings', answer: z.array(KeptSettings) },
  keepSettings: {
    method: 'post',
    path: '/api/render-settings',
    body: KeptSettings,
    answer: z.array(KeptSettings),
  },
  dropSettings: {
    method: 'post',
    path: '/api/render-settings/dropped',
    body: KeptSettings.pick({ name: true }),
    answer: z.array(KeptSettings),
  },
  listReviews: {
    method: 'get',
    path: '/api/projects/{projectId}/reviews',
    answer: z.array(Review),
  },
  sendReview: {
    method: 'post',
    path: '/api/projects/{projectId}/reviews',
    body: NewReview,
    answer: Review,
    status: 202,
  },
  withdrawReview: {
    method: 'post',
    path: '/api/projects/{projectId}/reviews/{reviewId}/withdrawal',
    answer: Review,
  },
  listVerdicts: {
    method: 'get',
    path: '/api/projects/{projectId}/verdicts',
    answer: z.array(StandingVerdict),
  },
  listNotes: {
    method: 'get',
    path: '/api/projects/{projectId}/notes',
    answer: z.array(Note),
  },
  addNote: {
    method: 'post',
    path: '/api/projects/{projectId}/notes',
    body: NewNote,
    answer: Note,
    status: 201,
  },
  settleNote: {
    method: 'post',
    path: '/api/projects/{projectId}/notes/{noteId}/settled',
    body: z.object({ isSettled: z.boolean() }),
    answer: Note,
  },
  openReview: {
    method: 'get',
    path: '/api/reviews/{token}',
    answer: ReviewPage,
  },
  reviewFile: {
    method: 'get',
    path: '/api/reviews/{token}/files/{deliveryId}',
    produces: 'video/mp4',
  },
  addReviewNote: {
    method: 'post',
    path: '/api/reviews/{token}/notes',
    body: NewNote,
    answer: Note,
    status: 201,
  },
  addVerdict: {
    method: 'post',
    path: '/api/reviews/{token}/verdicts',
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
