export { type Finding, type Found, type Severity, SEVERITIES, byVisibility, pairOf } from './finding';
export { PROPOSED_EDITS, type Proposal, type ProposalValues, acceptFinding, acceptFindings } from './proposals';
export { type BlockView, type GapView, type JobView, type LineView, type Rule, type SheetView, TRACKING_LIMITS, type TrackingLimits, judgeJob } from './rule';
export { RULES, ruleOf } from './rules';
export { type Inspection, Inspector, inspectBlock } from './inspect';
export { type JobFinding, checkJob, refineJob } from './whole-job';
export { NOTICED } from './rules/gap-deviation';
