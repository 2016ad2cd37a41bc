export { DrawingTooLargeError, type SvgLetters, type SvgOptions, escapeXml, weightOf, writeSvg } from './svg';
export { JOB_FILE_EXTENSION, JOB_FILE_TYPE, describeIssues, readJob, readJobFile, writeJobFile } from './job-file';
export { type OutsideFace, type ReadToken, TokenError, readTokens, writeCss, writeTokens } from './tokens';
