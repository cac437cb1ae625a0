import type { OwnState, PlaceState, TodoState } from '@back-again/contract';
import {
  today as dayOf,
  type Agenda,
  type DayReminder,
  type Instant,
  type LocalDate,
  type NamedPlace,
  type Planner,
  type Settings,
  type TodoView,
} from '@back-again/core';
import { useEffect, useMemo, useState } from 'react';
import { useSelector } from 'react-redux';
import type { Unsorted } from './local/shown.ts';
import type { Local } from './local/slice.ts';
import { onJump, serverNow } from './local/time.ts';
import { useRoom } from './room.tsx';
import type { AppState } from './store.ts';

/** What a screen shows of the to-dos that are here. */

const TICK = 15_000;

/** The server’s time, which goes on while it is looked at. */
export function useNow(): Instant {
  const { heardAt } = useLocal();
  const [tick, setTick] = useState(0);
  useEffect(() => {
    const look = () => setTick((n) => n + 1);
    const timer = setInterval(look, TICK);
    document.addEventListener('visibilitychange', look);
    const deaf = onJump(look);
    return () => {
      deaf();
      clearInterval(timer);
      document.removeEventListener('visibilitychange', look);
    };
  }, []);
  // Read anew with each tick, and when the server was heard.
  // eslint-disable-next-line react-hooks/exhaustive-deps
  return useMemo(() => Math.max(serverNow(), Date.parse(heardAt ?? '') || 0), [tick, heardAt]);
}

export const useLocal = (): Local => useSelector((state: AppState) => state.local);

/** Who is here, and how their days run; null until that is known. */
export interface Person {
  name: string;
  settings: Settings;
  holidays: readonly LocalDate[];
}

export function usePerson(): Person | null {
  const { name, settings, holidays } = useLocal();
  return useMemo(
    () => (name !== null && settings ? { name, settings, holidays } : null),
    [name, settings, holidays],
  );
}

export interface Shown {
  planner: Planner;
  now: Instant;
  today: LocalDate;
  person: Person;
  /** A to-do as it is shown; null where there is none. */
  viewOf(id: string): TodoView | null;
  /** As it is kept. */
  stateOf(id: string): TodoState | null;
  all(): readonly TodoState[];
  /** Those of the sphere in focus; all, where none is. */
  inSight(): readonly TodoState[];
  view(state: TodoState): TodoView;
  /** Today; with all spheres in sight where that is asked for. */
  agenda(isWhole?: boolean): Agenda;
  reminders(): DayReminder[];
  /** The places that are there, in the person’s order. */
  places(): readonly PlaceState[];
  /** What each is called. */
  names(): readonly NamedPlace[];
  own(): OwnState;
  /** What lacks a place or a date, the newest first, with what it lacks. */
  unsorted(): readonly Unsorted[];
  /** Whether the server alone knows what follows for a to-do: it is being done. */
  isUnknown(id: string): boolean;
}

/** Whether a person’s to-dos are here. */
export function useIsHere(): boolean {
  const { version } = useLocal();
  return usePerson() !== null && version > 0;
}

/** How many to-dos lack a place or a date; 0 until they are here. */
export function useUnsorted(): number {
  const { looking } = useRoom();
  const local = useLocal();
  return local.settings ? looking.unsorted(local).length : 0;
}

/** All that can be shown now, where a person’s to-dos are here. */
export function useShown(): Shown {
  const { looking } = useRoom();
  const local = useLocal();
  const person = usePerson();
  const now = useNow();
  return useMemo(() => {
    if (!person) throw new Error('Nobody’s to-dos are here.');
    const view = (state: TodoState) => looking.view(local, state, now);
    const stateOf = (id: string) => looking.todo(local, id);
    return {
      planner: looking.mine(local)!.planner,
      now,
      today: dayOf(person.settings, now),
      person,
      stateOf,
      view,
      viewOf(id) {
        const state = stateOf(id);
        return state && view(state);
      },
      all: () => looking.todos(local),
      inSight: () => looking.inSight(local),
      agenda: (isWhole = false) => looking.today(local, now, isWhole),
      reminders: () => looking.reminders(local, now),
      places: () => looking.places(local),
      names: () => looking.names(local),
      own: () => looking.own(local),
      unsorted: () => looking.unsorted(local),
      isUnknown: (id) => looking.overlay(local).unknown.has(id),
    };
  }, [looking, local, person, now]);
}
