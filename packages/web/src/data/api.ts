import { createApi, type BaseQueryFn } from '@reduxjs/toolkit/query/react';
import type {
  FootageFault,
  AnswerOf,
  BodyOf,
  Delivery,
  FolderEntry,
  FoundCut,
  Job,
  ProjectCard,
  ProjectDocument,
  RenderRequest,
  RouteName,
  RunResult,
  SightingMeasurements,
  Upload,
} from '@mellow/contract';
import { freshDocument, freshJobs, freshTracks } from './fresh.ts';
import { pending } from './pending.ts';
import { renamedProject } from './renamedProject.ts';
import { ask, type Failure } from './requests.ts';

/** A route of the contract and what it is asked with. */
type Question = {
  [N in RouteName]: { route: N; params?: Record<string, string>; query?: Record<string, string>; body?: BodyOf<N> };
}[RouteName];

const contractQuery: BaseQueryFn<Question, unknown, Failure> = async ({ route, ...input }, { signal }) =>
  ask(route, { ...(input as object), signal });

/** Server data. Edits go through editing/, which patches `getProject` before the server answers. */
export const api = createApi({
  reducerPath: 'api',
  baseQuery: contractQuery,
  tagTypes: [
    'Projects',
    'Project',
    'Measurements',
    'Jobs',
    'Deliveries',
    'Tracks',
    'Reviews',
    'Verdicts',
    'Kept',
    'People',
    'Uploads',
  ],
  endpoints: (build) => ({
    listProjects: build.query<ProjectCard[], void>({
      query: () => ({ route: 'listProjects' }),
      providesTags: ['Projects'],
    }),
    createProject: build.mutation<AnswerOf<'createProject'>, BodyOf<'createProject'>>({
      query: (body) => ({ route: 'createProject', body }),
      invalidatesTags: ['Projects'],
    }),
    duplicateProject: build.mutation<AnswerOf<'duplicateProject'>, string>({
      query: (projectId) => ({ route: 'duplicateProject', params: { projectId } }),
      invalidatesTags: ['Projects'],
    }),
    setProjectState: build.mutation<BodyOf<'setProjectState'>, BodyOf<'setProjectState'> & { projectId: string }>({
      query: ({ projectId, state }) => ({ route: 'setProjectState', params: { projectId }, body: { state } }),
      invalidatesTags: ['Projects'],
    }),
    renameProject: build.mutation<unknown, { projectId: string; name: string }>({
      queryFn: ({ projectId, name }) => renamedProject(projectId, name),
      invalidatesTags: ['Projects'],
    }),
    getProject: build.query<ProjectDocument, string>({
      queryFn: (projectId) => freshDocument(() => ask('getProject', { params: { projectId } }), pending, projectId),
      providesTags: ['Project'],
    }),
    footageFaults: build.query<FootageFault[], string>({
      query: (projectId) => ({ route: 'footageFaults', params: { projectId } }),
      keepUnusedDataFor: 0,
    }),
    footageCuts: build.query<FoundCut[], string>({
      query: (mediaId) => ({ route: 'footageCuts', params: { mediaId } }),
      keepUnusedDataFor: 0,
    }),
    measurements: build.query<SightingMeasurements[], string>({
      query: (projectId) => ({ route: 'listMeasurements', params: { projectId } }),
      providesTags: ['Measurements'],
    }),
    tracks: build.query<RunResult[], string>({
      queryFn: (projectId) => freshTracks(() => ask('listTracks', { params: { projectId } })),
      providesTags: ['Tracks'],
    }),
    jobs: build.query<Job[], string>({
      queryFn: (projectId) => freshJobs(() => ask('listJobs', { params: { projectId } })),
      providesTags: ['Jobs'],
    }),
    cancelJob: build.mutation<Job, string>({
      query: (jobId) => ({ route: 'cancelJob', params: { jobId } }),
      invalidatesTags: ['Jobs', 'Deliveries', 'Project'],
    }),
    retryJob: build.mutation<Job, string>({
      query: (jobId) => ({ route: 'retryJob', params: { jobId } }),
      invalidatesTags: ['Jobs', 'Deliveries', 'Project'],
    }),
    deliveries: build.query<Delivery[], string>({
      query: (projectId) => ({ route: 'listDeliveries', params: { projectId } }),
      providesTags: ['Deliveries'],
    }),
    render: build.mutation<Delivery[], RenderRequest & { projectId: string }>({
      query: ({ projectId, ...body }) => ({ route: 'render', params: { projectId }, body }),
      invalidatesTags: ['Deliveries', 'Jobs'],
    }),
    folder: build.query<FolderEntry[], string>({ query: (path) => ({ route: 'listFolder', query: { path } }) }),
    readMedia: build.mutation<AnswerOf<'readMedia'>, BodyOf<'readMedia'> & { projectId: string; mediaId: string }>({
      query: ({ projectId, mediaId, ...body }) => ({ route: 'readMedia', params: { projectId, mediaId }, body }),
      invalidatesTags: ['Jobs'],
    }),
    uploads: build.query<Upload[], void>({ query: () => ({ route: 'listUploads' }), providesTags: ['Uploads'] }),
    importFromFolder: build.mutation<AnswerOf<'importFromFolder'>, BodyOf<'importFromFolder'> & { projectId: string }>({
      query: ({ projectId, ...body }) => ({ route: 'importFromFolder', params: { projectId }, body }),
      invalidatesTags: ['Project', 'Jobs'],
    }),
    track: build.mutation<AnswerOf<'track'>, BodyOf<'track'> & { projectId: string }>({
      query: ({ projectId, ...body }) => ({ route: 'track', params: { projectId }, body }),
      invalidatesTags: ['Project', 'Jobs'],
    }),
    carry: build.mutation<AnswerOf<'carry'>, BodyOf<'carry'> & { projectId: string }>({
      query: ({ projectId, ...body }) => ({ route: 'carry', params: { projectId }, body }),
      invalidatesTags: ['Project', 'Jobs'],
    }),
  }),
});

export const {
  useListProjectsQuery,
  useCreateProjectMutation,
  useDuplicateProjectMutation,
  useSetProjectStateMutation,
  useRenameProjectMutation,
  useGetProjectQuery,
  useFootageFaultsQuery,
  useFootageCutsQuery,
  useUploadsQuery,
  useMeasurementsQuery,
  useTracksQuery,
  useJobsQuery,
  useCancelJobMutation,
  useRetryJobMutation,
  useDeliveriesQuery,
  useRenderMutation,
  useFolderQuery,
  useReadMediaMutation,
  useImportFromFolderMutation,
  useCarryMutation,
  useTrackMutation,
} = api;
