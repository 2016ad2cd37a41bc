export { type Finding, type Found, type Judged, type PassId, type Severity, SEVERITIES, byVisibility, isSilenced, pairOf } from './finding';
export { PROPOSED_EDITS, type Proposal, type ProposalValues, acceptFinding, acceptFindings } from './proposals';
export {
  type BlockView,
  type GapView,
  type JobView,
  type LineView,
  type Rule,
  type SheetView,
  JUDGING,
  type Judge,
  type Judging,
  TRACKING_LIMITS,
  type TrackingLimits,
  judgeJob,
} from './rule';
export { JOB_RULES } from './job-rules';
export { FINDING_RULES, ruleOf } from './rules';
export { type Inspection, Inspector, inspectBlock, inspectView, viewOf } from './inspect';
export { type BlockMeasure, type JobCheck, type JobFinding, checkJob, judgingOf } from './whole-job';
export { ledApart } from './clear-lines';
export { type LineFix, type ShortLastLine, shortLastLineIn } from './short-last-line';
export { noticedAt } from './rules/gap-deviation';
