import type { TodoView } from '@back-again/core';
import { Note } from '../../ui/Note.tsx';
import { momentText } from '../../ui/dates.ts';

interface KeptProps {
  todo: TodoView | null;
  today: string;
  onOpen: () => void;
}

/** What was just written, and when it comes first. */
export function Kept({ todo, today, onOpen }: KeptProps) {
  if (!todo) return null;
  const { series, open, next } = todo;
  const first = open[0]?.due ?? next?.due;
  const when = first
    ? `${series.repeat ? 'First on' : 'On'} ${momentText(first, today, true)}.`
    : 'It has no date yet: you find it in All.';
  return (
    <Note
      words={`${series.title} is kept. ${when.replace('On today', 'For today').replace('First on today', 'First today')}`}
      action={{ label: 'Open', name: `Open: ${series.title}`, onPress: onOpen }}
    />
  );
}
