export { type BlockReport, type JobReport, type LineReport, type SheetReport, reportOn, sayReport } from './report';
