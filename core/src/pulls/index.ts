export { PULL_REASONS, type Pieces, type PullReason, putTogether, takeApart } from './pulls';
export { type ArchivedPull, MOST_PULLS, type PullArchive, newJobBodySchema, pullArchiveSchema, archivedPulls } from './archive';
