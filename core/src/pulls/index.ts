export { PULL_REASONS, type Pieces, type PullReason, putTogether, takeApart } from './pulls';
