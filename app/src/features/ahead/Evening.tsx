import type { LocalDate } from '@back-again/core';
import type { DayAhead, Proposed } from '@back-again/core/planning';
import { later } from '../../ui/span.ts';
import { EvenPanel } from './EvenPanel.tsx';
import { useAnswer, type Forecast } from './useForecast.ts';

interface EveningProps {
  forecast: Forecast;
  from: LocalDate;
  /** Over how many days. */
  days: number;
  today: LocalDate;
  titleOf: (key: string) => string;
  onDays: (days: number) => void;
  /** Takes moves over, of what stands on these days. */
  onTake: (moves: readonly Proposed[], days: readonly DayAhead[]) => void;
  onClose: () => void;
}

/** Evening out some days: what would is worked out while it is looked at, and not before. */
export function Evening({ forecast, from, days, onTake, ...rest }: EveningProps) {
  const to = later(from, days - 1);
  const proposal = useAnswer(forecast, 'even', from, to);
  const evened = useAnswer(forecast, 'days', from, to);
  if (!proposal || !evened) return null;
  return (
    <EvenPanel
      key={JSON.stringify(proposal.moves)}
      proposal={proposal}
      days={days}
      onTake={(moves) => onTake(moves, evened)}
      {...rest}
    />
  );
}
