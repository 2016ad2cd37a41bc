export { AT_REST, type Alone, type LeverValues, type LineToFit, type Solved, alone, solveLevers, widthWith } from './levers';
export { type Breakable, type TightLine, leastRoom, leastTightening } from './pull-up';
