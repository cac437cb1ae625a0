import {
  createApi,
  type BaseQueryFn,
  type FetchBaseQueryError,
} from '@reduxjs/toolkit/query/react';
import type {
  FinishView,
  EndedView,
  RegionView,
  RemovedView,
  FoundView,
  OutboxView,
  Register,
  SaidView,
  SessionView,
  PlacePage,
  StandIn,
  SettingsBody,
  SignIn,
  TodoPage,
} from '@back-again/contract';
import { ask, errorOf, type Asked } from './ask.ts';
import { isLeaving, setLeaving } from './leaving.ts';

export { errorOf } from './ask.ts';

/** Where a session has run out in the meantime, asks who is signed in anew: nobody. */
const baseQuery: BaseQueryFn<string | Asked, unknown, FetchBaseQueryError> = async (
  args,
  store,
) => {
  const answered = await ask(typeof args === 'string' ? { url: args } : args);
  if ('data' in answered) return answered;
  const { error } = answered;
  if (errorOf(error).code === 'session.none' && store.endpoint !== 'session')
    store.dispatch(api.util.invalidateTags(['Session']));
  return { error: error as FetchBaseQueryError };
};

/** What is asked of the server alone: who is signed in, records, what was said and sent. */
export const api = createApi({
  reducerPath: 'api',
  baseQuery,
  tagTypes: ['Session', 'Record', 'Past', 'Said', 'Outbox'],
  refetchOnFocus: true,
  refetchOnReconnect: true,
  endpoints: (build) => ({
    /** Who is signed in; null where nobody is. */
    session: build.query<SessionView | null, void>({
      async queryFn(_nothing, _store, _options, send) {
        const { data, error } = await send('/session');
        if (isLeaving()) return { data: null };
        if (!error) return { data: data as SessionView };
        return errorOf(error).code === 'session.none' ? { data: null } : { error };
      },
      providesTags: ['Session'],
    }),
    register: build.mutation<SessionView, Register>({
      query: (body) => ({ url: '/accounts', method: 'POST', body }),
      invalidatesTags: (view) => (view ? ['Session', 'Record', 'Past', 'Said'] : []),
    }),
    signIn: build.mutation<SessionView, SignIn>({
      query: (body) => ({ url: '/session', method: 'POST', body }),
      invalidatesTags: (view) => (view ? ['Session', 'Record', 'Past', 'Said'] : []),
    }),
    signOut: build.mutation<void, void>({
      async queryFn(_nothing, _store, _options, send) {
        setLeaving(true);
        // Asking for anything signs out first; what cannot be reached is tried again.
        await send('/now');
        return { data: undefined };
      },
    }),
    settings: build.mutation<SessionView, SettingsBody>({
      query: (body) => ({ url: '/settings', method: 'PUT', body }),
      invalidatesTags: (view) => (view ? ['Session', 'Record', 'Past', 'Said'] : []),
    }),
    /** A page of the record of a to-do, behind so many ended times. */
    record: build.query<TodoPage, { id: string; skip: number }>({
      query: ({ id, skip }) => `/todos/${id}?skip=${skip}`,
      providesTags: ['Record'],
    }),
    /** What was done in a place. */
    place: build.query<PlacePage, string>({
      query: (id) => `/places/${id}`,
      providesTags: ['Record'],
    }),
    /** What was written down with ended times, by words. */
    find: build.query<FoundView, { words: string; after?: string }>({
      query: ({ words, after }) =>
        `/record?words=${encodeURIComponent(words)}${after ? `&after=${encodeURIComponent(after)}` : ''}`,
      providesTags: ['Record'],
    }),
    /** The regions whose public holidays are known. */
    regions: build.query<RegionView[], void>({ query: () => '/regions' }),
    /** What was taken away in the last 30 days. */
    removed: build.query<RemovedView, void>({
      query: () => '/removed',
      providesTags: ['Record'],
    }),
    /** What ended on some days. */
    ended: build.query<EndedView, { from: string; to: string }>({
      query: ({ from, to }) => `/ended?from=${from}&to=${to}`,
      providesTags: ['Record'],
    }),
    said: build.query<SaidView, void>({ query: () => '/said', providesTags: ['Said'] }),
    seen: build.mutation<void, number>({
      query: (through) => ({ url: '/said/seen', method: 'PUT', body: { through } }),
      // What was asked for before that does not count as new what is seen.
      invalidatesTags: ['Said'],
      // What is new is counted at once.
      async onQueryStarted(through, { dispatch, queryFulfilled }) {
        await queryFulfilled;
        dispatch(
          api.util.updateQueryData('said', undefined, (view) => {
            view.seenThrough = Math.max(view.seenThrough, through);
            view.fresh = view.rows.filter(({ seq }) => seq > view.seenThrough).length;
          }),
        );
      },
    }),
    outbox: build.query<OutboxView, void>({
      query: () => '/outbox',
      providesTags: ['Outbox', 'Said'],
    }),
    standIn: build.mutation<void, StandIn>({
      query: (body) => ({ url: '/stand-in', method: 'PUT', body }),
      invalidatesTags: ['Outbox'],
    }),
    finish: build.query<FinishView, string>({
      query: (token) => `/finish/${encodeURIComponent(token)}`,
    }),
    finishNow: build.mutation<FinishView, string>({
      query: (token) => ({ url: `/finish/${encodeURIComponent(token)}`, method: 'POST', body: {} }),
      invalidatesTags: ['Record', 'Said'],
    }),
  }),
});

export const {
  useSessionQuery,
  useRegisterMutation,
  useSignInMutation,
  useSignOutMutation,
  useSettingsMutation,
  useEndedQuery,
  useRegionsQuery,
  useRemovedQuery,
  useLazyFindQuery,
  useLazyRecordQuery,
  useRecordQuery,
  usePlaceQuery,
  useSaidQuery,
  useSeenMutation,
  useOutboxQuery,
  useStandInMutation,
  useFinishQuery,
  useFinishNowMutation,
} = api;
