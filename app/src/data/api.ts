import {
  createApi,
  fetchBaseQuery,
  type BaseQueryFn,
  type FetchArgs,
  type FetchBaseQueryError,
} from '@reduxjs/toolkit/query/react';
import type {
  Action,
  ActionAnswer,
  ApiError,
  FinishView,
  OutboxView,
  Register,
  SaidView,
  SessionView,
  StandIn,
  NowView,
  SettingsBody,
  SignIn,
  TodayView,
  TodoPage,
  TodosView,
} from '@back-again/contract';
import { isLeaving, setLeaving } from './leaving.ts';
import { hearTime } from './serverTime.ts';

const request = fetchBaseQuery({ baseUrl: '/api' });

const SIGN_OUT = { url: '/session', method: 'DELETE' };

/**
 * Where a session has run out in the meantime, asks who is signed in anew: nobody. Whoever has signed
 * out without a connection is signed out before anything else is asked.
 */
const baseQuery: BaseQueryFn<string | FetchArgs, unknown, FetchBaseQueryError> = async (
  args,
  store,
  options,
) => {
  if (isLeaving()) {
    const { error } = await request(SIGN_OUT, store, options);
    if (error) return { error };
    setLeaving(false);
  }
  const result = await request(args, store, options);
  hearTime(result.data);
  if (result.error && errorOf(result.error).code === 'session.none' && store.endpoint !== 'session')
    store.dispatch(api.util.invalidateTags(['Session']));
  return result;
};

/** Everything that goes to the server and comes from it. */
export const api = createApi({
  reducerPath: 'api',
  baseQuery,
  tagTypes: ['Session', 'Todos', 'Outbox'],
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
      invalidatesTags: (view) => (view ? ['Session', 'Todos'] : []),
    }),
    signIn: build.mutation<SessionView, SignIn>({
      query: (body) => ({ url: '/session', method: 'POST', body }),
      invalidatesTags: (view) => (view ? ['Session', 'Todos'] : []),
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
      invalidatesTags: (view) => (view ? ['Session', 'Todos'] : []),
    }),
    now: build.query<NowView, void>({ query: () => '/now', keepUnusedDataFor: 0 }),
    today: build.query<TodayView, void>({ query: () => '/today', providesTags: ['Todos'] }),
    todos: build.query<TodosView, void>({ query: () => '/todos', providesTags: ['Todos'] }),
    todo: build.query<TodoPage, string>({ query: (id) => `/todos/${id}`, providesTags: ['Todos'] }),
    said: build.query<SaidView, void>({ query: () => '/said', providesTags: ['Todos'] }),
    seen: build.mutation<void, number>({
      query: (through) => ({ url: '/said/seen', method: 'PUT', body: { through } }),
      // What is new is counted at once; the rows stay as they are.
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
      providesTags: ['Outbox', 'Todos'],
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
      invalidatesTags: ['Todos'],
    }),
    act: build.mutation<ActionAnswer, Action>({
      query: (body) => ({ url: '/actions', method: 'POST', body }),
      // A to-do may bring a place that was not there before.
      invalidatesTags: (answer, _error, action) =>
        answer ? ['Todos', ...('series' in action ? (['Session'] as const) : [])] : [],
    }),
  }),
});

export const {
  useSessionQuery,
  useRegisterMutation,
  useSignInMutation,
  useSignOutMutation,
  useSettingsMutation,
  useNowQuery,
  useTodayQuery,
  useTodosQuery,
  useTodoQuery,
  useSaidQuery,
  useSeenMutation,
  useOutboxQuery,
  useStandInMutation,
  useFinishQuery,
  useFinishNowMutation,
  useActMutation,
} = api;

/** An error of a request in words, with the part of the input that it is about. */
export function errorOf(error: unknown): { code: string; message: string; where: string } {
  const { status, data } = error as FetchBaseQueryError;
  const known = (data as Partial<ApiError> | undefined)?.error;
  if (known) return known;
  if (status === 'FETCH_ERROR')
    return {
      code: 'offline',
      where: '',
      message: 'No connection. Nothing is lost here: try again.',
    };
  return {
    code: 'unknown',
    where: '',
    message: 'That did not work. Nothing is lost here: try again.',
  };
}
