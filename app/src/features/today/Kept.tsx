import type { TodoView } from '@back-again/core';
import { useEffect, useRef } from 'react';
import { useAnnounce } from '../../ui/Frame.tsx';
import { Note } from '../../ui/Note.tsx';
import { momentText } from '../../ui/dates.ts';

interface KeptProps {
  todo: TodoView | null;
  today: string;
  onOpen: () => void;
}

/** What was just written, and when it comes first. */
export function Kept({ todo, today, onOpen }: KeptProps) {
  return todo ? <Told todo={todo} today={today} onOpen={onOpen} /> : null;
}

function Told({ todo, today, onOpen }: KeptProps & { todo: TodoView }) {
  const { series, open, next } = todo;
  const first = open[0]?.due ?? next?.due;
  const on = first === undefined || first === null ? null : momentText(first, today, true);
  const when =
    on === null
      ? 'It has no date yet: you find it in All.'
      : `${series.repeat ? 'First' : 'For'} ${on}.`;
  const words = `${series.title} is kept. ${when}`;
  const announce = useAnnounce();
  const said = useRef(false);
  useEffect(() => {
    // Once, as it was kept: what is done to it then is said by that.
    if (!said.current) announce(`Kept: ${series.title}. ${on === null ? 'Without a date.' : when}`);
    said.current = true;
  });
  return (
    <Note
      words={words}
      action={{ label: 'Open', name: `Open: ${series.title}`, onPress: onOpen }}
    />
  );
}
