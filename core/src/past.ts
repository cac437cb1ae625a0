// What looks back: apart from the rest, so that a screen without it need not load it.
export {
  insight,
  insightOf,
  type Insight,
  type InsightInput,
  type InsightOf,
  type MonthFigures,
} from './past/insight.ts';
export { answersOf, isAnswerTo, isNumeric, isSummed, type AnswerFigures } from './past/answers.ts';
export { keptOf, spreadOf, sumOf, type Spread } from './past/figures.ts';
export { insteadOf, intervalOf, withInterval, type Interval } from './past/instead.ts';
export { OUTCOMES, countedOf, type Counted, type Outcome, type PastTime } from './past/times.ts';
export { replay, type Replayed } from './past/replay.ts';
