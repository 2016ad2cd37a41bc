export {
  type Decision,
  LEAST_DECISIONS,
  NO_TASTE,
  type PairKind,
  type Taste,
  type TasteLine,
  amountOf,
  decided,
  decisionsOf,
  linesOf,
  pairKind,
  tasteSchema,
} from './taste';
