// What plays out whole lives, for trying out, scripts and tests: apart from the rest, so that no screen loads it.
export { chance } from './chance.ts';
export { Life } from './series/life/life.ts';
export {
  rehearse,
  type Rehearsal,
  type RehearsalStep,
  type Rehearsed,
  type RehearsedTime,
} from './series/life/rehearse.ts';
export { rehearseToday, type TodayRehearsal } from './agenda/rehearse.ts';
