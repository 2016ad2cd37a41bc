/** The kept and shown part of exercises, without dealing. */
export { LEAST_WORD_LETTERS, type LevelId, LEVELS, MOST_WORD_LETTERS, levelOf } from '../levels';
export { type Answer, type DrillResult, EXERCISES, type ExerciseKind, GOOD, letterScore, resultSchema, scoreOf } from '../score';
export { type Advice, type KeptResult, type PairProgress, type Progress, keptResultSchema, progressSchema } from '../progress-schema';
