import type { SessionView } from '@back-again/contract';
import type {
  DoorBody,
  DoorsView,
  MadeDoor,
  SessionsView,
  TakeInAnswer,
  TakeInBody,
  WayView,
} from '@back-again/contract/doors';
import { api } from '../../data/api.ts';

const withDoors = api.enhanceEndpoints({ addTagTypes: ['Doors', 'Sessions', 'Way'] });

/** What goes in and out, and the account: asked of the server alone. */
const doors = withDoors.injectEndpoints({
  endpoints: (build) => ({
    doors: build.query<DoorsView, void>({ query: () => '/doors', providesTags: ['Doors'] }),
    makeDoor: build.mutation<MadeDoor, DoorBody>({
      query: (body) => ({ url: '/doors', method: 'POST', body }),
      invalidatesTags: ['Doors'],
    }),
    withdraw: build.mutation<void, string>({
      query: (id) => ({ url: `/doors/${id}`, method: 'DELETE' }),
      invalidatesTags: ['Doors'],
    }),
    takeIn: build.mutation<TakeInAnswer, TakeInBody>({
      query: (body) => ({ url: '/take-in', method: 'POST', body }),
      invalidatesTags: ['Record', 'Past'],
    }),
    takeBack: build.mutation<unknown, { id: string; of: string }>({
      query: (body) => ({ url: '/actions', method: 'POST', body: { do: 'undo', ...body } }),
      invalidatesTags: ['Record', 'Past'],
    }),
    way: build.query<WayView, string>({
      query: (secret) => `/ways/${encodeURIComponent(secret)}`,
      providesTags: ['Way'],
    }),
    useWay: build.mutation<WayView, { secret: string; id: string }>({
      query: ({ secret, id }) => ({
        url: `/ways/${encodeURIComponent(secret)}`,
        method: 'POST',
        body: { id },
      }),
    }),
    sessions: build.query<SessionsView, void>({
      query: () => '/account/sessions',
      providesTags: ['Sessions'],
    }),
    endSession: build.mutation<void, string>({
      query: (id) => ({ url: `/account/sessions/${id}`, method: 'DELETE' }),
      invalidatesTags: ['Sessions'],
    }),
    password: build.mutation<void, { old: string; password: string }>({
      query: (body) => ({ url: '/account/password', method: 'POST', body }),
      invalidatesTags: (_done, error) => (error ? [] : ['Sessions']),
    }),
    address: build.mutation<SessionView, { old: string; name: string }>({
      query: (body) => ({ url: '/account/address', method: 'POST', body }),
    }),
    removeAccount: build.mutation<void, { old: string }>({
      query: (body) => ({ url: '/account/remove', method: 'POST', body }),
    }),
    forgotten: build.mutation<void, { name: string }>({
      query: (body) => ({ url: '/forgotten', method: 'POST', body }),
    }),
    newPassword: build.mutation<void, { token: string; password: string }>({
      query: (body) => ({ url: '/new-password', method: 'POST', body }),
    }),
  }),
});

export const {
  useDoorsQuery,
  useMakeDoorMutation,
  useWithdrawMutation,
  useTakeInMutation,
  useTakeBackMutation,
  useWayQuery,
  useUseWayMutation,
  useSessionsQuery,
  useEndSessionMutation,
  usePasswordMutation,
  useAddressMutation,
  useRemoveAccountMutation,
  useForgottenMutation,
  useNewPasswordMutation,
} = doors;
