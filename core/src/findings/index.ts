export { type Finding, type Proposal, type Rule, type Severity, SEVERITIES, TRACKING_LIMITS, type TrackingLimits, acceptFinding, pairOf } from './finding';
export { RULES, ruleOf } from './rules';
export { type Inspection, Inspector, inspectBlock } from './inspect';
export { type JobFinding, checkJob, refineJob } from './whole-job';
