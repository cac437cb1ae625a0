import { useTodoQuery } from '../../data/api.ts';
import { Note } from '../../ui/Note.tsx';
import { momentText } from '../../ui/dates.ts';

/** What was just written, and when it comes first. */
export function Kept({ id, today, onOpen }: { id: string; today: string; onOpen: () => void }) {
  const { data } = useTodoQuery(id);
  if (!data) return null;
  const { series, open, next } = data.todo;
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
