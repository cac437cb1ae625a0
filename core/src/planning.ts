// What plans ahead: apart from the rest, so that a screen without it need not load it.
export {
  evenOut,
  type EvenInput,
  type Evened,
  type EvenDay,
  type EvenTime,
} from './planning/even.ts';
export { GRID, layOut, type Laid, type LayInput, type LayTime } from './planning/lay.ts';
