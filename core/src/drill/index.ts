export { LEAST_WORD_LETTERS, LEVELS, LEVEL_IDS, MOST_WORD_LETTERS, type Level, type LevelId, levelOf } from './levels';
export { DrillError, type DrillGap, type DrillLetter, type DrillLine, hasGoodKerning } from './line';
export {
  type DealRequest,
  type EvenExercise,
  type Exercise,
  type LeadingExercise,
  type PlaceExercise,
  type TouchExercise,
  type WrongExercise,
  aimOf,
  pickOne as oneOf,
  led,
  placed,
  scoreAgainst,
  pointedAt,
} from './deal';
export {
  type Answer,
  DEALT,
  type DrillResult,
  EXERCISES,
  type ExerciseKind,
  FREE,
  GOOD,
  LOST,
  STORED_RESULT,
  drillAnswerSchema,
  chanceScore,
  leadingScore,
  letterScore,
  resultSchema,
  scoreOf,
} from './score';
export {
  type Advice,
  type KeptResult,
  type PairProgress,
  type Progress,
  keptResultSchema,
  progressSchema,
  resultPageSchema,
  resultQuerySchema,
} from './progress-schema';
export { mondayOf } from './week';
export { type Player, placesBy, playRounds } from './player';
export { deal, drillLine } from './plain';
