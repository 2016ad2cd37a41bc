import type { Rule } from './rule';
import { oddRise } from './rules/odd-rise';

/** The rules that look at the job as a document: the page asks them itself, and holds no others. */
export const JOB_RULES: readonly Rule[] = [oddRise];
