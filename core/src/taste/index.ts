export { type Taste, tasteSchema } from './schema';
export {
  type Decision,
  LEAST_DECISIONS,
  NO_TASTE,
  type PairKind,
  type TasteLine,
  amountOf,
  amountsOf,
  decided,
  decisionsOf,
  tasteLines,
  pairKind,
} from './taste';
