import { createApi, fetchBaseQuery, type FetchBaseQueryError } from '@reduxjs/toolkit/query/react';
import type {
  AnswerOf,
  Delivery,
  FolderEntry,
  ImportAnswer,
  Job,
  Problem,
  ProjectCard,
  ProjectDocument,
  RenderRequest,
  RunResult,
  SightingMeasurements,
} from '@mellow/contract';
import { freshDocument, freshTracks } from './fresh.ts';
import { pending } from './pending.ts';

/** What the base query gives, told apart. */
type Fetched<D> = { data: D; error?: undefined } | { data?: undefined; error: FetchBaseQueryError };

/** Server data. Edits go through the command layer (editing.ts), which patches `getProject` before the server answers. */
export const api = createApi({
  reducerPath: 'api',
  baseQuery: fetchBaseQuery({ baseUrl: '/api' }),
  tagTypes: ['Projects', 'Project', 'Measurements', 'Jobs', 'Deliveries', 'Tracks'],
  endpoints: (build) => ({
    listProjects: build.query<ProjectCard[], void>({ query: () => '/projects', providesTags: ['Projects'] }),
    createProject: build.mutation<AnswerOf<'createProject'>, string>({
      query: (name) => ({ url: '/projects', method: 'POST', body: { name } }),
      invalidatesTags: ['Projects'],
    }),
    getProject: build.query<ProjectDocument, string>({
      queryFn: (id, _api, _options, fetched) =>
        freshDocument(async () => (await fetched(`/projects/${id}`)) as Fetched<ProjectDocument>, pending, id),
      providesTags: ['Project'],
    }),
    measurements: build.query<SightingMeasurements[], string>({
      query: (id) => `/projects/${id}/measurements`,
      providesTags: ['Measurements'],
    }),
    tracks: build.query<RunResult[], string>({
      queryFn: (id, _api, _options, fetched) =>
        freshTracks(async () => (await fetched(`/projects/${id}/tracks`)) as Fetched<RunResult[]>),
      providesTags: ['Tracks'],
    }),
    jobs: build.query<Job[], string>({ query: (id) => `/projects/${id}/jobs`, providesTags: ['Jobs'] }),
    cancelJob: build.mutation<Job, string>({
      query: (id) => ({ url: `/jobs/${id}/cancel`, method: 'POST' }),
      invalidatesTags: ['Jobs', 'Deliveries', 'Project'],
    }),
    retryJob: build.mutation<Job, string>({
      query: (id) => ({ url: `/jobs/${id}/retry`, method: 'POST' }),
      invalidatesTags: ['Jobs', 'Deliveries', 'Project'],
    }),
    deliveries: build.query<Delivery[], string>({
      query: (id) => `/projects/${id}/deliveries`,
      providesTags: ['Deliveries'],
    }),
    render: build.mutation<Delivery[], RenderRequest & { projectId: string }>({
      query: ({ projectId, ...body }) => ({ url: `/projects/${projectId}/deliveries`, method: 'POST', body }),
      invalidatesTags: ['Deliveries', 'Jobs'],
    }),
    folder: build.query<FolderEntry[], string>({ query: (path) => `/media-folder?path=${encodeURIComponent(path)}` }),
    importFromFolder: build.mutation<ImportAnswer, { projectId: string; paths: string[]; fps?: number }>({
      query: ({ projectId, ...body }) => ({ url: `/projects/${projectId}/media/from-folder`, method: 'POST', body }),
      invalidatesTags: ['Project', 'Jobs'],
    }),
  }),
});

export const {
  useListProjectsQuery,
  useCreateProjectMutation,
  useGetProjectQuery,
  useMeasurementsQuery,
  useTracksQuery,
  useJobsQuery,
  useCancelJobMutation,
  useRetryJobMutation,
  useDeliveriesQuery,
  useRenderMutation,
  useFolderQuery,
  useImportFromFolderMutation,
} = api;

/** What to tell the user about a failed request. */
export function problemText(error: unknown): string {
  const data = (error as { data?: Problem } | undefined)?.data;
  return data?.detail ?? 'The server did not answer. Is it still running?';
}
