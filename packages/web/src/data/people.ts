// Who is asking, the accounts of the house, and who works in a project.
import type { AnswerOf, BodyOf, Invitation, Me, Membership, Person } from '@mellow/contract';
import { api } from './api.ts';

const peopleApi = api.injectEndpoints({
  endpoints: (build) => ({
    me: build.query<Me, void>({ query: () => ({ route: 'me' }) }),
    signIn: build.mutation<Me, BodyOf<'signIn'>>({ query: (body) => ({ route: 'signIn', body }) }),
    signOut: build.mutation<Me, void>({ query: () => ({ route: 'signOut' }) }),
    invitation: build.query<AnswerOf<'findInvitation'>, string>({
      query: (token) => ({ route: 'findInvitation', params: { token } }),
    }),
    acceptInvitation: build.mutation<Me, { token: string; password: string }>({
      query: ({ token, password }) => ({ route: 'acceptInvitation', params: { token }, body: { password } }),
    }),
    people: build.query<Person[], void>({ query: () => ({ route: 'listPeople' }), providesTags: ['People'] }),
    addPerson: build.mutation<Invitation, BodyOf<'addPerson'>>({
      query: (body) => ({ route: 'addPerson', body }),
      invalidatesTags: ['People'],
    }),
    changePerson: build.mutation<Person, BodyOf<'changePerson'> & { personId: string }>({
      query: ({ personId, ...body }) => ({ route: 'changePerson', params: { personId }, body }),
      invalidatesTags: ['People'],
    }),
    invite: build.mutation<Invitation, string>({
      query: (personId) => ({ route: 'invite', params: { personId } }),
    }),
    members: build.query<Membership[], string>({
      query: (projectId) => ({ route: 'listMembers', params: { projectId } }),
      providesTags: ['People'],
    }),
    giveRole: build.mutation<Membership[], BodyOf<'giveRole'> & { projectId: string }>({
      query: ({ projectId, ...body }) => ({ route: 'giveRole', params: { projectId }, body }),
      invalidatesTags: ['People', 'Project', 'Projects'],
    }),
  }),
});
export const {
  useMeQuery,
  useSignInMutation,
  useSignOutMutation,
  useInvitationQuery,
  useAcceptInvitationMutation,
  usePeopleQuery,
  useAddPersonMutation,
  useChangePersonMutation,
  useInviteMutation,
  useMembersQuery,
  useGiveRoleMutation,
} = peopleApi;
export const { me } = peopleApi.endpoints;
