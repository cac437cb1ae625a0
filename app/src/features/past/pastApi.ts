import type {
  LookBackView,
  PastDayView,
  PastDaysView,
  PastTodoView,
  TotalsView,
} from '@back-again/contract/past';
import { api } from '../../data/api.ts';

/** Of what: one to-do, a place with all that it holds, or everything. */
export interface About {
  todo?: string | undefined;
  place?: string | undefined;
}
export interface DaysAsked extends About {
  from: string;
  to: string;
}
export interface TotalsQuery extends DaysAsked {
  by: string;
  each: string;
  asks?: string | undefined;
  unit?: string | undefined;
}

/** The part of an address after its question mark, without what is not said. */
export const search = (asked: object): string =>
  new URLSearchParams(
    Object.entries(asked).flatMap(([key, value]): [string, string][] =>
      value === undefined || value === null || value === '' ? [] : [[key, String(value)]],
    ),
  ).toString();

/** What really happened, asked of the server: it alone has the whole record. */
const past = api.injectEndpoints({
  endpoints: (build) => ({
    pastDay: build.query<PastDayView, string>({
      query: (on) => `/past/day?${search({ on })}`,
      providesTags: ['Past'],
    }),
    pastDays: build.query<PastDaysView, DaysAsked>({
      query: (asked) => `/past/days?${search(asked)}`,
      providesTags: ['Past'],
    }),
    pastTodo: build.query<
      PastTodoView,
      { id: string; from?: string | undefined; to?: string | undefined; skip?: number }
    >({
      query: ({ id, ...asked }) => `/past/todos/${id}?${search(asked)}`,
      providesTags: ['Past'],
    }),
    totals: build.query<TotalsView, TotalsQuery>({
      query: (asked) => `/past/totals?${search(asked)}`,
      providesTags: ['Past'],
    }),
    lookBack: build.query<LookBackView, { id: string; number?: string | undefined }>({
      query: ({ id, number }) => `/past/looks/${id}?${search({ number })}`,
      providesTags: ['Past'],
    }),
    removeForGood: build.mutation<void, string>({
      query: (id) => ({ url: `/past/todos/${id}`, method: 'DELETE' }),
      invalidatesTags: ['Past'],
    }),
  }),
});

export const {
  usePastDayQuery,
  usePastDaysQuery,
  usePastTodoQuery,
  useLazyPastTodoQuery,
  useTotalsQuery,
  useLookBackQuery,
  useRemoveForGoodMutation,
} = past;
