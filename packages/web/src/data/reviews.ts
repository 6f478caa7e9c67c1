// What is sent for review and what is said of it: asked only where it is shown.
import type {
  AnswerOf,
  BodyOf,
  NewNote,
  NewReview,
  NewVerdict,
  Note,
  Review,
  ReviewPage,
  StandingVerdict,
} from '@mellow/contract';
import { api } from './api.ts';

const reviewApi = api.injectEndpoints({
  endpoints: (build) => ({
    reviews: build.query<Review[], string>({
      query: (projectId) => ({ route: 'listReviews', params: { projectId } }),
      providesTags: ['Reviews'],
    }),
    sendReview: build.mutation<Review, NewReview & { projectId: string }>({
      query: ({ projectId, ...body }) => ({ route: 'sendReview', params: { projectId }, body }),
      invalidatesTags: ['Reviews', 'Jobs'],
    }),
    withdrawReview: build.mutation<Review, Pick<Review, 'projectId' | 'id'>>({
      query: ({ projectId, id }) => ({ route: 'withdrawReview', params: { projectId, reviewId: id } }),
      invalidatesTags: ['Reviews'],
    }),
    verdicts: build.query<StandingVerdict[], string>({
      query: (projectId) => ({ route: 'listVerdicts', params: { projectId } }),
      providesTags: ['Verdicts'],
    }),
    notes: build.query<Note[], string>({
      query: (projectId) => ({ route: 'listNotes', params: { projectId } }),
      providesTags: ['Reviews'],
    }),
    addNote: build.mutation<Note, NewNote & { projectId: string }>({
      query: ({ projectId, ...body }) => ({ route: 'addNote', params: { projectId }, body }),
      invalidatesTags: ['Reviews'],
    }),
    settleNote: build.mutation<AnswerOf<'settleNote'>, BodyOf<'settleNote'> & { projectId: string; noteId: string }>({
      query: ({ isSettled, ...params }) => ({ route: 'settleNote', params, body: { isSettled } }),
      invalidatesTags: ['Reviews'],
    }),
    openReview: build.query<ReviewPage, string>({
      query: (token) => ({ route: 'openReview', params: { token } }),
      providesTags: ['Reviews'],
    }),
    addReviewNote: build.mutation<Note, NewNote & { token: string }>({
      query: ({ token, ...body }) => ({ route: 'addReviewNote', params: { token }, body }),
      invalidatesTags: ['Reviews'],
    }),
    addVerdict: build.mutation<ReviewPage, NewVerdict & { token: string }>({
      query: ({ token, ...body }) => ({ route: 'addVerdict', params: { token }, body }),
      invalidatesTags: ['Reviews'],
    }),
  }),
});
export const {
  useReviewsQuery,
  useSendReviewMutation,
  useWithdrawReviewMutation,
  useVerdictsQuery,
  useNotesQuery,
  useAddNoteMutation,
  useSettleNoteMutation,
  useOpenReviewQuery,
  useAddReviewNoteMutation,
  useAddVerdictMutation,
} = reviewApi;
