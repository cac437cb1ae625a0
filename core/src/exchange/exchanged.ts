import type { LocalDate } from '../calendar/day.ts';
import type { LocalMoment } from '../calendar/time.ts';
import type { Answer, Details, StepText } from '../definition/details.ts';
import type { Series } from '../series/definition/definition.ts';
import type { Status } from '../series/life/progress.ts';
import type { Property } from './jcal.ts';

/** A time as it is written: whole, as it ended or stands. */
export interface ExchangedTime {
  slot: LocalMoment;
  number?: number;
  due: LocalMoment | null;
  plan?: LocalDate | null;
  status: Status;
  /** ISO 8601. */
  closedAt?: string | null;
  /** How much of it is done, in a hundred. */
  part?: number;
  tally?: number;
  note?: string;
  ticks?: string[];
  steps?: StepText[];
  answers?: Record<string, Answer>;
  spent?: number;
  /** What it was called and was, where that was other than now. */
  details?: Partial<Details>;
  /** Properties of other programs. */
  kept?: Property[];
}

export interface ExchangedTodo {
  id: string;
  series: Series;
  details?: Partial<Details>;
  times?: ExchangedTime[];
  /** ISO 8601. */
  created?: string;
  changed?: string;
  version?: number;
  kept?: Property[];
}
