import type { LocalDate, LocalTime } from '@back-again/core';
import { useEffect, useRef, useState, type RefObject } from 'react';
import { hourAt } from './HourRuler.tsx';

/** Carrying a time to another day: by pointer, by finger, by keys. */

/** Where what is carried would come to lie; `day` null over nothing. */
export interface Over {
  day: LocalDate | null;
  /** Over a ruler: at that hour. */
  at?: LocalTime;
}

export interface Carried {
  /** What names it. */
  name: string;
  /** How: by keys there is no place of the pointer. */
  by: 'pointer' | 'keys';
  x: number;
  y: number;
  over: Over;
}

interface Carrying {
  /** The element within which things are carried. */
  inside: RefObject<HTMLElement | null>;
  /** The day on which it lies now, for keys; null where it has none yet. */
  dayOf: (name: string) => LocalDate | null;
  today: LocalDate;
  /** So many days on from one. */
  later: (day: LocalDate, days: number) => LocalDate;
  /** It is let go over a day. */
  onDrop: (name: string, over: Over & { day: LocalDate }) => void;
  /** Held at an edge: shows what comes before or after. */
  onEdge: (by: -1 | 1) => void;
  /** What keys carry it over is shown. */
  onShow: (day: LocalDate) => void;
}

/** So far a pointer moves before it carries something; below it is a touch. */
const SLIP = 6;
/** So near an edge the list scrolls, or goes on to another week when it is held there. */
const NEAR = 56;
const HELD = 650;

const STEPS: Record<string, number> = {
  ArrowUp: -1,
  ArrowLeft: -1,
  ArrowDown: 1,
  ArrowRight: 1,
  PageUp: -7,
  PageDown: 7,
};

export function useCarrying(it: Carrying): Carried | null {
  const [carried, setCarried] = useState<Carried | null>(null);
  const now = useRef<Carried | null>(null);
  const latest = useRef(it);
  useEffect(() => {
    latest.current = it;
  });
  const show = (next: Carried | null) => {
    now.current = next;
    setCarried(next);
  };

  useEffect(() => {
    let pressed: { name: string; x: number; y: number; id: number } | null = null;
    let timer = 0;
    let edge: { by: -1 | 1; since: number } | null = null;
    let list: HTMLElement | null = null;
    const root = () => latest.current.inside.current;

    const overAt = (x: number, y: number): Over => {
      const under = document.elementFromPoint(x, y);
      const day = under?.closest<HTMLElement>('[data-day]');
      if (!day || !root()?.contains(day)) return { day: null };
      const ruler = under?.closest<HTMLElement>('[data-ruler]');
      if (!ruler) return { day: day.dataset.day! };
      const { left, width } = ruler.getBoundingClientRect();
      return { day: day.dataset.day!, at: hourAt(x, left, width) };
    };

    const stop = () => {
      pressed = null;
      edge = null;
      cancelAnimationFrame(timer);
      timer = 0;
      show(null);
    };

    /** While something is carried near an edge the list scrolls; at its end another week comes. */
    const roll = () => {
      timer = requestAnimationFrame(roll);
      const carries = now.current;
      if (!carries || !list) return;
      const { top, bottom } = list.getBoundingClientRect();
      const by = carries.y < top + NEAR ? -1 : carries.y > bottom - NEAR ? 1 : 0;
      const before = list.scrollTop;
      if (by) list.scrollTop += by * 9;
      if (!by || list.scrollTop !== before) edge = null;
      else if (edge?.by !== by) edge = { by, since: performance.now() };
      else if (performance.now() - edge.since > HELD) {
        edge = null;
        latest.current.onEdge(by);
      }
      const over = overAt(carries.x, carries.y);
      if (over.day !== carries.over.day || over.at !== carries.over.at) show({ ...carries, over });
    };

    const down = (event: PointerEvent) => {
      const target = event.target as Element | null;
      const entry = target?.closest<HTMLElement>('[data-entry]');
      const grip = target?.closest<HTMLElement>('[data-grip]');
      if (!entry || event.button > 0 || !root()?.contains(entry)) return;
      // A finger scrolls, unless it takes the mark.
      if (event.pointerType !== 'mouse' && !grip) return;
      if (!entry.querySelector('[data-grip]')) return;
      pressed = {
        name: entry.dataset.entry!,
        x: event.clientX,
        y: event.clientY,
        id: event.pointerId,
      };
    };
    const move = (event: PointerEvent) => {
      if (!pressed || event.pointerId !== pressed.id) return;
      const { clientX: x, clientY: y } = event;
      const carries = now.current?.by === 'pointer';
      if (!carries && Math.hypot(x - pressed.x, y - pressed.y) < SLIP) return;
      event.preventDefault();
      show({ name: pressed.name, by: 'pointer', x, y, over: overAt(x, y) });
      if (!timer) {
        list = scrollerIn(root());
        timer = requestAnimationFrame(roll);
      }
    };
    const up = (event: PointerEvent) => {
      if (!pressed || event.pointerId !== pressed.id) return;
      const carries = now.current;
      const { name } = pressed;
      stop();
      if (carries?.by !== 'pointer') return;
      swallowClick();
      const { day, at } = carries.over;
      if (day !== null) latest.current.onDrop(name, { day, ...(at === undefined ? {} : { at }) });
    };
    const key = (event: KeyboardEvent) => {
      const carries = now.current;
      if (carries && event.key === 'Escape') {
        event.preventDefault();
        event.stopPropagation();
        stop();
        return;
      }
      const grip = (event.target as Element | null)?.closest<HTMLElement>('[data-grip]');
      if (!carries) {
        if (!grip || (event.key !== 'Enter' && event.key !== ' ')) return;
        if (!root()?.contains(grip)) return;
        event.preventDefault();
        event.stopPropagation();
        const name = grip.dataset.grip!;
        const day = latest.current.dayOf(name) ?? latest.current.today;
        show({ name, by: 'keys', x: 0, y: 0, over: { day } });
        return;
      }
      if (carries.by !== 'keys') return;
      const step = STEPS[event.key];
      if (step !== undefined) {
        event.preventDefault();
        event.stopPropagation();
        const day = latest.current.later(carries.over.day!, step);
        show({ ...carries, over: { day } });
        latest.current.onShow(day);
      } else if (event.key === 'Enter' || event.key === ' ') {
        event.preventDefault();
        event.stopPropagation();
        const { day } = carries.over;
        stop();
        if (day !== null) latest.current.onDrop(carries.name, { day });
      }
    };
    const swallowKeyUp = (event: KeyboardEvent) => {
      const isGrip = (event.target as Element | null)?.closest('[data-grip]');
      if (isGrip && (event.key === 'Enter' || event.key === ' ')) event.preventDefault();
    };

    document.addEventListener('pointerdown', down);
    document.addEventListener('pointermove', move, { passive: false });
    document.addEventListener('pointerup', up);
    document.addEventListener('pointercancel', stop);
    document.addEventListener('keydown', key, true);
    document.addEventListener('keyup', swallowKeyUp, true);
    return () => {
      document.removeEventListener('pointerdown', down);
      document.removeEventListener('pointermove', move);
      document.removeEventListener('pointerup', up);
      document.removeEventListener('pointercancel', stop);
      document.removeEventListener('keydown', key, true);
      document.removeEventListener('keyup', swallowKeyUp, true);
      cancelAnimationFrame(timer);
    };
  }, []);

  return carried;
}

/** What was carried and let go is not opened as well. */
function swallowClick(): void {
  const swallow = (event: Event) => {
    event.stopPropagation();
    event.preventDefault();
  };
  document.addEventListener('click', swallow, { capture: true, once: true });
  setTimeout(() => document.removeEventListener('click', swallow, { capture: true }), 60);
}

/** The list that scrolls the days. */
function scrollerIn(element: HTMLElement | null): HTMLElement | null {
  const scrolls = (it: HTMLElement) => /auto|scroll/u.test(getComputedStyle(it).overflowY);
  return Array.from(element?.querySelectorAll<HTMLElement>('div') ?? []).find(scrolls) ?? null;
}
