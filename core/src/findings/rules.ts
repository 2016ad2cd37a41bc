import { JOB_RULES } from './job-rules';
import type { Rule } from './rule';
import { EDGES } from './rules/edges';
import { gapOpen, gapTight } from './rules/gap-deviation';
import { lineEnd } from './rules/line-end';
import { missingLetters } from './rules/missing-letters';
import { blocksMeet, linesMeet } from './rules/meeting';
import { NO_ROOM } from './rules/no-room';
import { samePair } from './rules/same-pair';
import { inksTouch, touching } from './rules/touching';
import { shortLastLine } from './rules/short-last-line';
import { SHIFTED } from './rules/shifted';
import { TEXTURE } from './rules/texture';
import { trackingLimit } from './rules/tracking-limit';
import { trackingSize } from './rules/tracking-size';
import { TYPED_MARKS } from './rules/typed-marks';
import { typedSmall } from './rules/typed-smalls';
import { wordSpace } from './rules/word-space';

/** All rules. A new one is a file of its own and a line here. */
export const FINDING_RULES: readonly Rule[] = [
  missingLetters,
  gapOpen,
  gapTight,
  inksTouch,
  touching,
  samePair,
  wordSpace,
  trackingLimit,
  trackingSize,
  linesMeet,
  blocksMeet,
  lineEnd,
  shortLastLine,
  ...TEXTURE,
  ...TYPED_MARKS,
  typedSmall,
  ...SHIFTED,
  ...NO_ROOM,
  ...EDGES,
  ...JOB_RULES,
];

export const ruleOf = (id: string): Rule | undefined => FINDING_RULES.find((rule) => rule.id === id);
