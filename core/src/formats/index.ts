export { type SvgLetters, type SvgOptions, escapeXml, writeSvg } from './svg';
export { JOB_FILE_EXTENSION, JOB_FILE_TYPE, describeIssues, readJob, readJobFile, writeJobFile } from './job-file';
export { baseColour, gradientLine } from './background';
export { type RunPaint, isPlain, paintOf } from './paint';
