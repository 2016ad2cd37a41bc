import type { Rule } from './finding';
import { gapOpen, gapTight, samePair, touching } from './gap-rules';
import { trackingLimit, trackingSize, wordSpace } from './tracking-rules';

/** All rules. A new one is a definition in its file and a line here. */
export const RULES: readonly Rule[] = [gapOpen, gapTight, touching, samePair, wordSpace, trackingLimit, trackingSize];

export const ruleOf = (id: string): Rule | undefined => RULES.find((rule) => rule.id === id);
