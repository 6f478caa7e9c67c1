// What takes room on the server's disk, and what is deleted for good.
import type { AnswerOf, Space } from '@mellow/contract';
import { api } from './api.ts';

const spaceApi = api.injectEndpoints({
  endpoints: (build) => ({
    // others bring in and render meanwhile: always as it is now
    space: build.query<Space, void>({ query: () => ({ route: 'space' }), keepUnusedDataFor: 0 }),
    deleteProject: build.mutation<AnswerOf<'deleteProject'>, string>({
      query: (projectId) => ({ route: 'deleteProject', params: { projectId } }),
      invalidatesTags: ['Projects'],
    }),
    deleteDelivery: build.mutation<AnswerOf<'deleteDelivery'>, string>({
      query: (deliveryId) => ({ route: 'deleteDelivery', params: { deliveryId } }),
      invalidatesTags: ['Deliveries'],
    }),
  }),
});
export const { useSpaceQuery, useDeleteProjectMutation, useDeleteDeliveryMutation } = spaceApi;
