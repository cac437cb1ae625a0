// All that looks back is loaded at once, and by nobody else.
export { DayScreen } from './DayScreen.tsx';
export { LookBackScreen } from './LookBackScreen.tsx';
export { TodoScreen } from './TodoScreen.tsx';
export { TotalsScreen } from './TotalsScreen.tsx';
export { YearScreen } from './YearScreen.tsx';
